// A refusal that came with the page: the form was posted before there was script.

import { addVerdicts } from './addVerdicts.ts';
import { internalsOf } from './internals.ts';
import { plainRefusalIn } from './serverAnswer.ts';

/** Shows what a server answered, if it is a refusal as of `GateOptions.submit`, as if it had just refused. */
export function takeRefusal(gate: object, answer: unknown): void {
  const refusal = plainRefusalIn(answer);
  if (!refusal) return;
  const { store, submission } = internalsOf(gate);
  store.actAs('server', () => addVerdicts(store, refusal));
  submission.become('refused');
}
