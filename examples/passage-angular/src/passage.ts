import { askRegister } from 'lock-passage/client';
import { passageForm } from 'lock-passage/passage';

export const passage = passageForm(askRegister);
