// Kinds of controls, by what HTML calls them.

import type { Holding } from '../../schema/traits.ts';

/** Inputs that are buttons; they hold nothing that a person fills in. */
export const BUTTONS: readonly string[] = ['submit', 'reset', 'button', 'image'];

/** Whether controls of one name are one field together: radios, or the checkboxes of a field that takes several values. */
export const areTogether = (type: unknown, holds: Holding | undefined): boolean =>
  type === 'radio' || (type === 'checkbox' && holds === 'options');
