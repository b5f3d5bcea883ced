// A rule: what a field, a group or a list lets judge its value. The rules themselves are in ../rules.

import type { Text } from '../messages/text.ts';
import type { Params, Severity } from './finding.ts';

declare const MARK: unique symbol;

/** The events of a form at which rules run; each runs the rules of those before it too. */
export type Stage = 'change' | 'blur' | 'submit';

/** What a built-in rule reports: a code, and the English text that goes with it. */
export interface Verdict {
  readonly code: string;
  readonly text?: Text | undefined;
  /** A message of the author's own; goes before every catalogue. */
  readonly message?: Text | undefined;
  readonly severity?: Severity | undefined;
  readonly params?: Params | undefined;
  /** About the judging, not about the value: what the rule's author gave (message, code, severity) does not fit it. */
  readonly ignoresOptions?: true;
  /** The field it belongs to, relative to the value that was judged; `''` or absent: that value itself. */
  readonly path?: string | undefined;
}

/** What a rule says of a value: nothing when content. */
export type RuleResult = Verdict | readonly Verdict[] | undefined;

/** Tells the present moment, for rules that speak of today. */
export type Clock = () => Date;

/** What every rule takes last; a plain string there is the message. */
export interface RuleOptions {
  /** Instead of the catalogue's text; `{min}` and the like stand for the rule's params. */
  readonly message?: Text;
  /** Instead of the rule's own code. */
  readonly code?: string;
  /** Default `'error'`; nothing else blocks. */
  readonly severity?: Severity;
  /** The first event at which the rule runs; default: that of the form. */
  readonly on?: Stage;
}

/** What an async rule is given beside the value. */
export interface AsyncCheckRun<B> {
  /** Aborted as soon as the answer is of no use any more. Hand it to `fetch`. */
  readonly signal: AbortSignal;
  /** The other fields of the group; what is read before the first `await` is tracked. */
  readonly siblings: B;
}

/** How an async rule asks. */
export interface AsyncRuleSpec<in V, in B> {
  /** What others call the question: a server puts its own function in place of `run` by it. */
  readonly name: string | undefined;
  readonly run: (value: V, context: AsyncCheckRun<B>) => unknown;
  /** Milliseconds without a change before the question is put. */
  readonly debounce: number;
  /** Milliseconds until the question counts as unanswered. */
  readonly timeout: number;
  /** How many answers are kept per field. */
  readonly cache: number;
  readonly unanswered: 'warn' | 'block';
}

/** What a rule says that no two rows of a list may be the same: a live form then compares only the rows that change. */
export interface Distinct {
  /** The field of the row that is compared; nothing: the row itself. */
  readonly by: string | undefined;
  /** What a row is compared by; nothing where it has no value. Reads the row by calling `look`. */
  readonly keyOf: (look: () => unknown) => unknown;
  /** The finding on a row that is the same as an earlier one, by their indices. */
  readonly verdict: (index: number, first: number) => Verdict;
}

/** A function of the author's, whatever it takes. */
export type AuthorFunction = (...args: never[]) => unknown;

/**
 * A rule: `V` is the value it judges, `B` the siblings it reads, `Q` a mark that changes the field's type.
 * Exactly one of `judge`, `need` and `ask` is there.
 */
export interface Rule<in V, in B = unknown, out Q extends string = never> extends RuleOptions {
  readonly name: string;
  readonly params: Params;
  /** Not asked about empty values. */
  readonly test?: (value: V, siblings: B, now: Clock) => RuleResult;
  /** Whether the field must not be empty. */
  readonly requires?: (siblings: B) => boolean;
  readonly async?: AsyncRuleSpec<V, B>;
  readonly distinct?: Distinct;
  /** The author's own function, if the rule is made of one: what is written down of the rule is the name of that. */
  readonly author?: AuthorFunction;
  readonly [MARK]?: Q;
}

/** A rule as the library's own machinery handles it, its types checked where it was declared. */
export type AnyRule = Rule<never, never, string>;

/** Puts a rule together from its parts and what its author gave last. */
export function makeRule<V, B = unknown, Q extends string = never>(
  name: string,
  params: Params,
  how: Pick<Rule<V, B>, 'test' | 'requires' | 'async' | 'distinct' | 'author'>,
  options: RuleOptions | string | undefined,
): Rule<V, B, Q> {
  return { name, params, ...how, ...(typeof options === 'string' ? { message: options } : options) };
}
