// What the user does on the page, so that whoever follows the form knows it from what the program does.

import { internalsOfHandle, type Handle } from '../gate/handle.ts';

/** Does something that the user has done on the page. */
export const asUser = <T>(handle: Handle, act: () => T): T => internalsOfHandle(handle).store.actAs('page', act);

/**
 * Edits a field as its user does: it takes what the control holds.
 *
 * @param handle the handle of the field
 * @param raw what the control holds
 *
 * @example
 * form.addEventListener('input', ({ target }) => enter(gate.field('vessel'), (target as HTMLInputElement).value));
 */
export const enter = (handle: Handle, raw: unknown): void => asUser(handle, () => handle.set(raw));
