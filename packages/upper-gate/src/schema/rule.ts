// A rule: what a field, a group or a list lets validate its value. The rules themselves are in ../rules.

import { declared, DEV, devAssert, got } from '#development';
import { assertUse } from './assertUse.ts';
import { brand, type Branded } from './brand.ts';
import type { Context } from './context/context.ts';
import type { RuleDefinition } from './definition.ts';
import type { Params } from './finding.ts';
import type { AttachRule, FollowingNode, Scopes, WhileWaiting } from './kit.ts';
import type { RawOptions } from './option.ts';
import { blocks, isSeverity, SEVERITY_NAMES } from './severity.ts';
import type { Clock, Reporter, RuleOptions, RuleResult, Verdict } from './verdict.ts';
import type { WalkedPart, Walker } from './walker.ts';
import type { Traits } from './traits.ts';
import type { RuleName } from './vocabulary.ts';

declare const MARK: unique symbol;

/** What a rule makes of the type of its field: `'required'` leaves no `undefined` in its data. */
export type Mark = 'plain' | 'required';

/** What a run belongs to: the form, or the validation. */
export const FORM: unique symbol = Symbol('form');
/** Marks a function that asks about the values of many fields at once. */
export const TOGETHER: unique symbol = Symbol('together');

/** The second argument of an async rule. */
export interface AsyncCheckRun<B, L = unknown> {
  readonly [FORM]?: object;
  /** Aborted when the answer is no longer needed. Pass it to `fetch`. */
  readonly signal: AbortSignal;
  /** The path of what is validated, so that one function serves several fields: `'crew.0.licence'`. */
  readonly path: string;
  /** Its label, in the language of the form. */
  readonly label: string;
  /** The fields of the group that declares the rule. Reads are tracked until the run ends, also after an `await`. */
  readonly siblings: B;
  /** The fields beside the validated one, if the group that declares the rule is further out. Reads are tracked, too. */
  readonly beside: L;
  /** Reads a fact from outside the form. Reads are tracked, too. */
  readonly read: <T>(token: Context<T>) => T;
}

/** How an async rule runs. */
interface AsyncRuleSpec<V, B, L = unknown> {
  /** The name under which `checks` on a server puts another function in place of `run`. */
  readonly name: string | undefined;
  readonly run: (value: V, context: AsyncCheckRun<B, L>) => unknown;
  /** Milliseconds without a change before it runs. */
  readonly debounce: number;
  /** Milliseconds until it counts as unanswered. */
  readonly timeout: number;
  /** How many answers are kept per field. */
  readonly cache: number;
  /** What it means that no answer came. Undefined: a warning in a form, an error everywhere else. */
  readonly unanswered: 'warn' | 'block' | undefined;
  /** What else the verdict says then. */
  readonly lacking?: Partial<Verdict>;
}

/** A function of the author, whatever it takes. */
export type AuthorFunction = (...args: never[]) => unknown;

/** How a rule works: exactly one of `test`, `requires`, `moving` and `async`. */
export interface RuleBody<in V, in B, in L = unknown> extends Pick<Reporter, 'limits' | 'writes' | 'quoted'> {
  /** Reports on a value; never called with an empty one. */
  readonly test?: (value: V & {}, siblings: B, now: Clock, beside: L) => RuleResult;
  /** Whether the field must not be empty. */
  readonly requires?: (siblings: B, beside: L) => boolean | undefined;
  readonly async?: AsyncRuleSpec<V, B, L>;
  /**
   * Runs it in a live form, if it reads more than the value of its field, or waits for an answer. A rule without it
   * runs whenever that value changes.
   */
  readonly attach?: AttachRule<AnyRule>;
  /** Runs the rules of its field in a live form, if its function may read facts from outside. */
  readonly follow?: <T>(node: FollowingNode, run: () => T) => T;
  /** Runs it on a whole value, if it needs more than that value: an answer from elsewhere, facts from outside. */
  walk?(this: void, rule: AnyRule, part: WalkedPart, data: unknown, walker: Walker, scopes?: Scopes): void;
  /**
   * Of a rule whose params depend on other fields, or on facts from outside: the rule as it is now, undefined while there is none.
   * It runs whether the field is empty or not, since its params are for hints and attributes, too.
   */
  readonly moving?: (siblings: B, beside: L) => AnyRule | undefined;
  /** What HTML can say of its params: attributes by name. Only of a rule that moves: those of others stand in the markup. */
  readonly attributes?: (params: Params, traits: Traits) => Readonly<Record<string, string>>;
  /** The values that it takes, as controls hold them. */
  readonly options?: RawOptions;
  /** Whether it gives the options: the elements of the page follow. */
  readonly givesOptions?: boolean;
  /** Says something else of a field that lacks a value, where this rule waits for another. */
  readonly whileWaiting?: WhileWaiting;
  /** Whether it does not run on a value, given all rules of the field. */
  readonly skips?: (value: V & {}, rules: readonly AnyRule[]) => boolean;
  /** The author's own function, if the rule is made of one: its name stands for it in documents. */
  readonly author?: AuthorFunction;
  /** What its author has defined, if it is no built-in one. */
  readonly definition?: RuleDefinition<AnyRule>;
}

/**
 * A rule: `V` is the value it validates, `B` the data of the group that declares it, `Q` a mark that changes the field's type,
 * `L` the data of the fields beside its own, where that lies further in.
 */
export interface Rule<in V, in B = unknown, out Q extends Mark = 'plain', in L = unknown> extends Reporter, RuleBody<V, B, L>, Branded {
  /** The name of a built-in rule (`RuleName`), or of yours. */
  readonly name: string;
  readonly [MARK]?: Q;
}

/** A rule as the library's own machinery handles it, its types checked where it was declared. */
export type AnyRule = Rule<never, never, Mark, never>;

/**
 * A rule as what runs it sees it: its functions take whatever there is. That this fits was checked where the rule was declared.
 * (They are methods here, so that every rule is one.)
 */
export interface RunnableRule extends Reporter {
  test?(this: void, value: unknown, siblings: unknown, now: Clock, beside: unknown): RuleResult;
  requires?(this: void, siblings: unknown, beside: unknown): boolean | undefined;
  moving?(this: void, siblings: unknown, beside: unknown): AnyRule | undefined;
  skips?(this: void, value: unknown, rules: readonly AnyRule[]): boolean;
}

/** The same for what an async rule runs. */
export interface RunnableAsync {
  run(this: void, value: unknown, context: AsyncCheckRun<unknown>): unknown;
}

/** Whether an error of the rule blocks. */
export const isBlocking = ({ severity = 'error' }: RuleOptions): boolean => blocks({ severity });

/**
 * Builds a rule from its parts and what its author gave last.
 *
 * @throws TypeError for a severity that does not exist
 */
export function makeRule<V, Q extends Mark = 'plain'>(
  name: RuleName,
  params: Reporter['params'],
  body: RuleBody<V, unknown>,
  options: RuleOptions | string | undefined,
): Rule<V, unknown, Q>;
/** (A rule that reads siblings brings what runs it again in a live form when these change.) */
export function makeRule<V, B, L = unknown, Q extends Mark = 'plain'>(
  name: RuleName,
  params: Reporter['params'],
  body: RuleBody<V, B, L> & { readonly attach: AttachRule<AnyRule> },
  options: RuleOptions | string | undefined,
): Rule<V, B, Q, L>;
/** (A rule of an author may have any name: its definition describes it.) */
export function makeRule<V, B, L = unknown>(
  name: string,
  params: Reporter['params'],
  body: RuleBody<V, B, L> & { readonly definition: RuleDefinition<AnyRule> },
  options: RuleOptions | string | undefined,
): Rule<V, B, 'plain', L>;
export function makeRule(
  name: string,
  params: Reporter['params'],
  body: RuleBody<never, never, never>,
  options: RuleOptions | string | undefined,
): AnyRule {
  devAssert(() => 'author' in body && typeof body.author !== 'function' && `${name}() takes a function of the values. ${got(body.author)}`);
  const given = typeof options === 'string' ? { message: options } : options;
  const severity = given?.severity;
  assertUse(
    severity === undefined || isSeverity(severity),
    DEV && `${name}() takes a severity of ${SEVERITY_NAMES.join(', ')}. It got ${JSON.stringify(severity)}.`,
  );
  return { name, params, ...body, ...given, ...brand, ...(DEV && declared()) };
}
