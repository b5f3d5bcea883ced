import 'lock-passage/inspecting';
import 'lock-passage/style.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Booking } from './Booking.tsx';

createRoot(document.getElementById('app')!).render(
  <StrictMode>
    <Booking />
  </StrictMode>,
);
