// A rehearsal: a form, a user and answers on a clock that stands still until the script says so. No page, no network, no time.

import { DEV } from '#development';
import { wrongUse } from '../schema/assertUse.ts';
import { checkContext } from '../schema/context/checkContext.ts';
import type { Context, ContextValue } from '../schema/context/context.ts';
import type { Catalogue } from '../messages/text.ts';
import { makeGate } from '../gate/createGate.ts';
import type { AnyGate, Gate, GateOptions } from '../gate/gate.ts';
import type { Node } from '../schema/node.ts';
import type { TraceData } from '../trace/entries.ts';
import { traceGate } from '../trace/traceGate.ts';
import { createAnswers, type AnswerDesk } from './answers.ts';
import { partOf } from '../schema/part.ts';
import { virtualClock } from './clock.ts';
import { asHeld } from './held.ts';
import type { Script } from './script.ts';
import { timelineText } from './text.ts';
import { timelineOf, type Timeline } from './timeline.ts';
import { createActor, createUser, type User } from './user.ts';

/** The options of `rehearse`: those of the form, and of the clock. */
export interface RehearsalOptions<N extends Node = Node> extends Pick<
  GateOptions<N>,
  'initial' | 'on' | 'reveal' | 'show' | 'refusal' | 'context'
> {
  /** What the timeline is called. */
  readonly name?: string;
  /** The contexts by whose names a script gives facts from outside. */
  readonly contexts?: readonly Context[];
  /** The moment at which it begins. Default 2027-05-01, 08:00 UTC. */
  readonly start?: Date;
  readonly messages?: Catalogue;
  /** Whether data that are sent, and facts from outside, are in the trace. */
  readonly withData?: boolean;
}

/** What came of a rehearsal. */
export interface Rehearsal<N extends Node = Node> {
  /** What happened, to be drawn or compared: the same each time. */
  readonly timeline: Timeline;
  /** The same as entries, with their causes. */
  readonly trace: TraceData;
  /** The form as it was left. */
  readonly gate: Gate<N>;
}

/** An expectation was not met, or the script did not answer something. Its message shows the timeline up to there. */
export class RehearsalError extends Error {
  override readonly name = 'RehearsalError';
  readonly timeline: Timeline;

  /** @param what what was expected, and what there is */
  constructor(what: string, timeline: Timeline) {
    super(`${what}\n\n${timelineText(timeline)}`);
    this.timeline = timeline;
  }
}

const START = new Date('2027-05-01T08:00:00Z');

/**
 * Rehearses a form without a page: a user acts on a clock of the rehearsal, and the script answers for async rules and the server. Equal at
 * each run, under any test runner, with or without its fake timers.
 *
 * @param schema the schema of the form
 * @param play what the user does, as a function or as data (`Script`)
 * @param options the options of the form, its name, the moment at which it begins; they override those of a script
 * @returns the timeline, the trace, and the form as it was left
 * @throws RehearsalError at what was expected and is not there, or was asked and not answered
 *
 * @example
 * const { timeline } = await rehearse(passage, async (user, answers) => {
 *   answers.rule('isOnRegister', [{ after: 900, answer: 'Not on the register' }]);
 *   await user.types('vessel', 'Otter', { pace: 120 });
 *   await user.leaves('vessel');
 *   await user.waits();
 *   await user.sees('vessel', 'Not on the register');
 * });
 */
export async function rehearse<N extends Node>(
  schema: N,
  play: ((user: User<N>, answers: AnswerDesk) => Promise<void>) | Script,
  options: RehearsalOptions<N> = {},
): Promise<Rehearsal<N>> {
  const script = typeof play === 'function' ? undefined : play;
  checkContext(options.context);
  const tokens = new Map(
    [...(options.contexts ?? []), ...(options.context ?? []).map(({ token }) => token as Context)].map((token) => [token.name, token]),
  );
  const context = contextOf(options.context, script, tokens);
  const {
    withData = false,
    name = script?.name ?? 'Rehearsal',
    start = script?.start === undefined ? START : new Date(script.start),
    messages,
  } = options;
  let activity = 0;
  const note = (): void => void (activity += 1);
  const clock = virtualClock(start, () => activity);
  const answers = createAnswers(schema, clock, tokens, note);
  const given = {
    on: script?.on,
    reveal: script?.reveal,
    show: script?.show,
    initial: asHeld(partOf(schema), script?.initial) as never,
    ...options,
  };
  const gate = makeGate(
    schema,
    { ...given, context, clock, messages, submit: answers.submit, onFault: () => undefined } as GateOptions<N>,
    answers.answerAsync,
  );
  const trace = traceGate(gate, { withData });
  trace.subscribe(note);
  const timeline = (): Timeline => timelineOf(trace.toJSON(), { name });
  const fail = (text: string): never => {
    throw new RehearsalError(text, timeline());
  };
  const check = (): void => {
    if (answers.problem) fail(answers.problem.message);
  };
  const stage = { gate: gate as AnyGate, clock, tokens, fail, check };
  try {
    if (script) {
      for (const [which, list] of Object.entries(script.answers ?? {})) answers.rule(which, list);
      if (script.submissions) answers.submission(script.submissions);
      const act = createActor(stage);
      for (const step of script.steps) await act(step);
    } else await (play as (user: User<N>, answers: AnswerDesk) => Promise<void>)(createUser(stage) as unknown as User<N>, answers);
    await clock.settle();
    check();
    return { timeline: timeline(), trace: trace.toJSON(), gate };
  } finally {
    // (The form stays as it is: without its clock, nothing runs any more.)
    trace.stop();
  }
}

/** The facts of a script over those that were given. @throws TypeError for a name that no context has */
function contextOf(
  given: readonly ContextValue[] = [],
  script: Script | undefined,
  tokens: ReadonlyMap<string, Context>,
): readonly ContextValue[] {
  const own = Object.entries(script?.context ?? {}).map(([name, value]) => {
    const token = tokens.get(name);
    if (!token)
      throw wrongUse(DEV && `The rehearsal has a value for the context "${name}", which was not given. Add it to the option contexts.`);
    return token.of(value);
  });
  return [...given.filter(({ token }) => !own.some((each) => each.token === token)), ...own];
}
