// A booking once it is made: what may still be changed of it, declared from the parts of the booking form.

import { fieldRules, groupRules, pick, type DataOf } from 'upper-gate';
import { fitsTheChamber, passageForm, wantsPhone } from './passage.ts';

const form = passageForm(() => Promise.resolve({ known: false }));

/** What may be changed. The boat and its slot are fixed: they were given by the office. */
export const bookedForm = pick(form, ['lengthM', 'beam', 'window', 'crew', 'kit', 'callBack', 'phone', 'remarks'], { clauses: 'drop' })
  .with(fieldRules({ phone: wantsPhone }))
  .with(groupRules(fitsTheChamber));

export type Changeable = DataOf<typeof bookedForm>;

/** A booking, as the office gives it. */
export interface Booking {
  readonly reference: string;
  readonly vessel: string;
  readonly arrival: string;
  readonly slot: string;
  readonly details: Changeable;
}
