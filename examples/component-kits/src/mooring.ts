// Booking a mooring: the form that every kit here draws.

import { boolean, choice, choices, date, file, group, length, list, mustBeTrue, number, range, required, text } from 'upper-gate';
import { booked } from './booked.ts';

/** The name of one guest. */
export const guest = text('Name of guest', required());

export const mooring = group(
  {
    vessel: text({ label: 'Vessel name', hint: 'As painted on the bow' }, required(), length({ min: 2, max: 40 })),
    lengthM: number('Length (m)', required(), range({ min: 2, max: 30 })),
    from: date('First night', required(), range({ min: '2027-03-01', max: '2027-10-31' })),
    quay: choice('Quay', ['North quay', 'South quay', 'Island'], required()),
    services: choices('Services', ['Water', 'Laundry', 'Pump-out'], required()),
    power: choice('Shore power', ['None', '6 A', '16 A'], required()),
    lines: choices('Lines on board', ['Bow', 'Stern', 'Spring'], required()),
    fenders: number('Fenders', required(), range({ min: 2, max: 10 })),
    early: boolean('We arrive before noon'),
    papers: file<File>('Insurance'),
    guests: list('Guests', guest, length({ max: 3 })),
    rules: boolean('I have read the harbour rules', mustBeTrue()),
  },
  'Mooring',
);

/** What a page without a server shows in place of sending. */
export const shown = (data: object): string => JSON.stringify(data, (_, value: unknown) => (value instanceof File ? value.name : value));

/** What a form begins with: nothing, or (`?booked`) a booking to change. */
export const initial = location.search === '?booked' ? booked : undefined;
