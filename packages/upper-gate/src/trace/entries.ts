// What a trace holds: plain data, as JSON has them. docs/seeing.md explains each kind; schemas/trace.schema.json says the same to programs.

import type { Status } from '../gate/submission.ts';
import type { Actor, TracedRule } from '../schema/kit.ts';
import type { Stage } from '../schema/verdict.ts';
import type { Severity } from '../schema/severity.ts';

/** The version of the format. It goes up when an entry changes its meaning. */
export const VERSION = 1;

/** A finding in a trace. Message and params are absent where they might hold something private. */
export interface TracedFinding {
  readonly path: string;
  readonly code: string;
  readonly severity: Severity;
  readonly message?: string;
  readonly params?: Readonly<Record<string, unknown>>;
}

/** Why a rule did not run. */
export type Reason =
  /** It does not apply, or its row is gone. */
  | 'notApplying'
  /** Its event (`on`) has not come yet. */
  | 'notYet'
  /** The field is empty, or `required` has reported that. */
  | 'empty'
  /** The value could not be read. */
  | 'unreadable'
  /** It reads something that has no value yet: `for`. */
  | 'waits'
  /** Another rule has found an error; async rules run only after that. */
  | 'hasErrors'
  /** Another rule of the field covers it: a pattern does not run on a text that is too long. */
  | 'covered'
  /** Nobody has edited or left the field: async rules do not run on initial values. */
  | 'untouched';

/** A field at which something happened. */
interface OnField {
  readonly path: string;
}

/** A rule on a field, group or list. `name`: that of an async rule, or of its author's function. */
interface OfRule extends OnField {
  readonly rule: string;
  readonly name?: string;
}

/** The name of an async rule, or of its author's function. */
export const ownName = ({ async, author }: TracedRule): string | undefined => async?.name ?? (author?.name || undefined);

/** What happened, by its kind. */
export type Happening =
  /** `raw` is absent where it is private. */
  | (OnField & { readonly kind: 'edited'; readonly by: Actor | 'rule'; readonly raw?: unknown })
  /** A value from outside, which is no edit. */
  | (OnField & { readonly kind: 'rebased'; readonly raw?: unknown })
  | (OnField & { readonly kind: 'left'; readonly by: Actor | 'rule' })
  | (OnField & { readonly kind: 'reset'; readonly raw?: unknown })
  | (OnField & { readonly kind: 'rowAdded'; readonly by: Actor | 'rule'; readonly to: number; readonly raw?: unknown })
  | (OnField & { readonly kind: 'rowRemoved'; readonly by: Actor | 'rule'; readonly from: number })
  | (OnField & { readonly kind: 'rowMoved'; readonly by: Actor | 'rule'; readonly from: number; readonly to: number })
  | { readonly kind: 'submitted'; readonly by: Actor | 'rule' }
  /** All rules here and below run again: for a submission, or since the program asks. */
  | (OnField & { readonly kind: 'validated'; readonly reveals: boolean })
  /** A fact from outside. `value` is there if it was asked for. */
  | { readonly kind: 'contextChanged'; readonly name: string; readonly value?: unknown }
  /** `took`: milliseconds, as the system measures them. `reads`: what it read beside its own value. */
  | (OfRule & { readonly kind: 'ran'; readonly reads: readonly string[]; readonly found: readonly TracedFinding[]; readonly took: number })
  | (OfRule & { readonly kind: 'skipped'; readonly why: Reason; readonly for?: string })
  /** An async rule waits for a pause of so many milliseconds. */
  | (OfRule & { readonly kind: 'waiting'; readonly pause: number })
  | (OfRule & { readonly kind: 'started' })
  | (OfRule & {
      readonly kind: 'answered';
      readonly reads: readonly string[];
      readonly found: readonly TracedFinding[];
      readonly options?: readonly unknown[];
    })
  /** The answer was known from before. */
  | (OfRule & { readonly kind: 'recalled'; readonly found: readonly TracedFinding[] })
  /** No answer came: the time was up, the rule failed, or it crashed. */
  | (OfRule & { readonly kind: 'unanswered'; readonly why: 'timeout' | 'failed' | 'crashed' | 'waits'; readonly reads: readonly string[] })
  /** What it was about has changed; it was waiting for the pause, or running, or had its answer. */
  | (OfRule & { readonly kind: 'aborted'; readonly was: 'waiting' | 'running' | 'settled'; readonly reads: readonly string[] })
  | (OfRule & { readonly kind: 'cameLate' })
  | (OnField & { readonly kind: 'appliesChanged'; readonly applies: boolean })
  /** `rule`: what found it; `by`: who else said so. */
  | (OnField & { readonly kind: 'found'; readonly finding: TracedFinding; readonly rule?: string; readonly by?: Actor })
  | (OnField & { readonly kind: 'gone' | 'shown' | 'hidden'; readonly finding: TracedFinding })
  | (OnField & { readonly kind: 'focused' })
  | { readonly kind: 'announced'; readonly text: string }
  /** The submission. `by`: who refused. `data`: what is sent, if that was asked for. */
  | { readonly kind: 'submission'; readonly status: Status; readonly by?: 'rules' | 'server'; readonly data?: unknown }
  /** A function of the author threw. `error` is its name, and its message where nothing of the form is private. */
  | (OnField & { readonly kind: 'faulted'; readonly rule: string; readonly error: string });

/** One entry of a trace. */
export type Entry = Happening & {
  /** Its number; the first has 1. */
  readonly n: number;
  /** Milliseconds since the trace began, by the clock of the gate. */
  readonly at: number;
  /** The number of the entry that caused it. */
  readonly cause?: number;
};

/** A trace as data. `JSON.stringify(trace)` writes it. */
export interface TraceData {
  readonly version: typeof VERSION;
  /** When it began, by the clock of the gate (RFC 3339). */
  readonly start: string;
  /** How long it has followed the form, in milliseconds by the clock of the gate. */
  readonly length: number;
  /** When rules run, and findings show, where neither rule nor field says. */
  readonly on: Stage;
  readonly reveal: Stage;
  readonly show: 'all' | 'first';
  /** What the form held then, without what is private; what was found, and what was shown of that. */
  readonly raw: unknown;
  readonly findings: readonly TracedFinding[];
  readonly shown: readonly TracedFinding[];
  /** How many entries were dropped, the oldest first, since there were more than the limit. */
  readonly dropped: number;
  readonly entries: readonly Entry[];
}
