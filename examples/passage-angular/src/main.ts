import 'lock-passage/inspecting';
import 'lock-passage/style.css';
import { provideZonelessChangeDetection } from '@angular/core';
import { bootstrapApplication } from '@angular/platform-browser';
import { Booking } from './booking.ts';

await bootstrapApplication(Booking, { providers: [provideZonelessChangeDetection()] });
