// A form that the browser posted itself, before the page's script ran: the page is drawn again with what was sent, and with
// what the server found.

import { internalsOf } from './internals.ts';
import { isObjectLike } from '../schema/safeAccess.ts';
import { restorable } from './restorable.ts';
import { takeRefusal } from './takeRefusal.ts';

const isText = (value: unknown): boolean => typeof value === 'string';

/**
 * Takes over the answer of a server to a form that was posted without script: `raw`, what was sent, as edits (except `private`
 * fields and files), unless something has been edited since; and, if it is a refusal as in `GateOptions.submit`, its findings.
 * No async rule runs, since the server has run them.
 *
 * @param gate the gate of the form
 * @param answer what the server answered: `raw` and `findings`
 */
export function takePosted(gate: object, answer: unknown): void {
  const { store } = internalsOf(gate);
  const { root } = store;
  store.change(() => {
    const raw = root.dirty === 0 && isObjectLike(answer) ? answer['raw'] : undefined;
    const posted = restorable(root.part, raw, ({ traits }, value) =>
      traits.json === 'any' || !isObjectLike(value) || (Array.isArray(value) && value.every(isText)) ? value : undefined,
    );
    if (posted !== undefined) store.actAs('server', () => root.edit(posted));
  });
  store.forgetAnswers();
  takeRefusal(gate, answer);
}
