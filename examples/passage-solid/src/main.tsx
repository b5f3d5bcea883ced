/** @jsxImportSource solid-js */
import './templates.ts';
import 'lock-passage/inspecting';
import 'lock-passage/style.css';
import { render } from 'solid-js/web';
import { Booking } from './Booking.tsx';

render(() => <Booking />, document.getElementById('app')!);
