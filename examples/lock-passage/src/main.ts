// The booking on a plain page.

import { bindForm, errorSummary, templateRows } from 'upper-gate/dom';
import { follow, makeBooking } from './page.ts';

const booking = makeBooking();
bindForm(document.querySelector<HTMLFormElement>('#booking')!, booking.gate, { rows: templateRows, summary: errorSummary });
follow(booking);
