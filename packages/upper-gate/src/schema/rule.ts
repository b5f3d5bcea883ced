// A rule: what a field, a group or a list lets validate its value. The rules themselves are in ../rules.

import { DEV } from '#development';
import { assertUse } from './assertUse.ts';
import type { Text } from '../messages/text.ts';
import type { Branded } from './brand.ts';
import { brand } from './brand.ts';
import type { Params } from './finding.ts';
import type { RuleName } from './vocabulary.ts';
import { blocks, isSeverity, SEVERITY_NAMES, type Severity } from './severity.ts';

declare const MARK: unique symbol;

/** The events of a form at which rules run; each runs the rules of those before it too. */
export type Stage = 'change' | 'blur' | 'submit';

/** What a built-in rule reports: a code and its English text. */
export interface Verdict {
  readonly code: string;
  readonly text?: Text | undefined;
  /** A message of the author's own; it takes precedence over every catalogue. */
  readonly message?: Text | undefined;
  readonly severity?: Severity | undefined;
  readonly params?: Params | undefined;
  /** About running the rule, not about the value: what the rule's author gave (message, code, severity) does not fit it. */
  readonly ignoresOptions?: true;
  /** The field it belongs to, relative to the value that was validated; `''` or absent: that value itself. */
  readonly path?: string | undefined;
}

/** What a rule reports on a value: nothing if it is right. */
export type RuleResult = Verdict | readonly Verdict[] | undefined;

/** Returns the present moment, for rules that depend on today's date. */
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
  /** Aborted as soon as the answer is of no use any more. Pass it to `fetch`. */
  readonly signal: AbortSignal;
  /** The other fields of the group. Reads are tracked until the run ends, also after an `await`. */
  readonly siblings: B;
}

/** How an async rule runs. */
export interface AsyncRuleSpec<V, B> {
  /** The name under which `checks` on a server puts another function in place of `run`. */
  readonly name: string | undefined;
  readonly run: (value: V, context: AsyncCheckRun<B>) => unknown;
  /** Milliseconds without a change before it runs. */
  readonly debounce: number;
  /** Milliseconds until it counts as unanswered. */
  readonly timeout: number;
  /** How many answers are kept per field. */
  readonly cache: number;
  /** What it means that no answer came; nothing: a warning in a form, an error everywhere else. */
  readonly unanswered: 'warn' | 'block' | undefined;
}

/** What a rule says that no two rows of a list may be the same: a live form then compares only the rows that change. */
export interface Distinct {
  /** The field of the row that is compared; nothing: the row itself. */
  readonly by: string | undefined;
  /** What a row is compared by; nothing if it has no value. Reads the row by calling `readRow`. */
  readonly keyOf: (readRow: () => unknown) => unknown;
  /** The finding on a row that is the same as an earlier one, by their indices. */
  readonly verdict: (index: number, first: number) => Verdict;
}

/** A function of the author's, whatever it takes. */
export type AuthorFunction = (...args: never[]) => unknown;

/** How a rule works: exactly one of `test`, `requires` and `async`. */
interface RuleBody<in V, in B> {
  /** Reports on a value; never called with an empty one. */
  readonly test?: (value: V & {}, siblings: B, now: Clock) => RuleResult;
  /** Whether the field must not be empty. */
  readonly requires?: (siblings: B) => boolean;
  readonly async?: AsyncRuleSpec<V, B>;
  readonly distinct?: Distinct;
  /** Whether it does not run on a value, given all rules of the field. */
  readonly skips?: (value: V & {}, rules: readonly AnyRule[]) => boolean;
  /** The author's own function, if the rule is made of one: its name stands for it in documents. */
  readonly author?: AuthorFunction;
}

/** A rule: `V` is the value it validates, `B` the siblings it reads, `Q` a mark that changes the field's type. */
export interface Rule<in V, in B = unknown, out Q extends string = never> extends RuleOptions, RuleBody<V, B>, Branded {
  readonly name: RuleName;
  readonly params: Params;
  readonly [MARK]?: Q;
}

/** A rule as the library's own machinery handles it, its types checked where it was declared. */
export type AnyRule = Rule<never, never, string>;

/** Whether an error of the rule blocks. */
export const isBlocking = ({ severity = 'error' }: RuleOptions): boolean => blocks({ severity });

/**
 * Builds a rule from its parts and what its author gave last.
 *
 * @throws TypeError for a severity that does not exist
 */
export function makeRule<V, B = unknown, Q extends string = never>(
  name: RuleName,
  params: Params,
  body: RuleBody<V, B>,
  options: RuleOptions | string | undefined,
): Rule<V, B, Q> {
  const given = typeof options === 'string' ? { message: options } : options;
  const severity = given?.severity;
  assertUse(
    severity === undefined || isSeverity(severity),
    DEV && `${name}() takes a severity of ${SEVERITY_NAMES.join(', ')}. It got ${JSON.stringify(severity)}.`,
  );
  return { name, params, ...body, ...given, ...brand };
}
