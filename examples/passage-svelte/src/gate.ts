import { askRegister } from 'lock-passage/client';
import { passageForm } from 'lock-passage/passage';
import type { Gate } from 'upper-gate';

export const passage = passageForm(askRegister);
export type PassageGate = Gate<typeof passage>;
