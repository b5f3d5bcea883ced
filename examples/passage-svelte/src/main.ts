import 'lock-passage/inspecting';
import 'lock-passage/style.css';
import { mount } from 'svelte';
import Booking from './Booking.svelte';

mount(Booking, { target: document.getElementById('app')! });
