// Context: facts from outside a form, such as the limits of whoever is signed in or a tide table that is fetched later. A
// token stands for a fact. Callbacks read it; whatever runs them (a form, a validation) provides its value.

import { DEV, explain } from '#development';
import { assertUse, wrongUse } from '../assertUse.ts';
import { Branded, isBranded } from '../brand.ts';
import type { Kit, LiveFacts, Token } from '../kit.ts';
import type { Node } from '../node.ts';
import { LiveContext } from './live.ts';
import { running, type ContextSource } from './running.ts';

/** A fact from outside a form, under a name. */
export interface Context<T = unknown> {
  readonly name: string;
  /** The schema that validates its value when it comes from a file. */
  readonly schema: Node | undefined;
  /**
   * Returns the value, within a rule, condition or function of limits. A form runs that again when the value changes. An async
   * rule calls `read(token)` of its second argument instead.
   *
   * @returns the value of the fact
   * @throws TypeError elsewhere, and where nothing was given for it. (A form waits instead, and cannot be submitted.)
   */
  get(): T;
  /**
   * Pairs the token with a value, for the option `context`.
   *
   * @param value the value of the fact
   * @returns the pair, for the option `context`
   */
  of(value: T): ContextValue;
}

/** A fact with its value. */
export interface ContextValue {
  // (A token of whatever type: `of` has checked the value.)
  readonly token: Context<never>;
  readonly value: unknown;
}

/** A token as the library's own machinery sees it. */
export class ContextToken extends Branded implements Token {
  readonly name: string;
  readonly schema: Node | undefined;
  readonly hasFallback: boolean;
  readonly fallback: unknown;

  constructor(name: string, options: ContextOptions<unknown>) {
    super();
    this.name = name;
    this.schema = options.schema;
    this.hasFallback = 'fallback' in options;
    this.fallback = options.fallback;
  }

  /** See `Part`. */
  get __v_skip(): true {
    return true;
  }

  get(): unknown {
    const { source } = running();
    if (source === undefined)
      throw wrongUse(
        DEV &&
          explain(
            'context-outside-of-a-rule',
            `The context "${this.name}" was read outside of a rule, condition or function of limits. An async rule reads it with read(${this.name}).`,
          ),
      );
    return this.readFrom(source);
  }

  /** @throws TypeError where nothing was given for it, or what ends the callback in a form */
  readFrom(source: ContextSource): unknown {
    if (source.readContext) return source.readContext(this);
    const given = source.context?.find(({ token }) => token === this);
    if (given) return given.value;
    if (this.hasFallback) return this.fallback;
    throw (source.lacking ??= wrongUse(
      DEV &&
        `The schema reads the context "${this.name}", which was not given. Pass { context: [${this.name}.of(...)] }, or give it a fallback.`,
    ));
  }

  of(value: unknown): ContextValue {
    return { token: tokenOf(this), value };
  }

  attach(kit: Kit): LiveFacts {
    return new LiveContext(kit);
  }
}

const tokenOf = <T>(token: ContextToken): Context<T> => token as Context as Context<T>;

/**
 * Returns whether a value is a token of context.
 *
 * @param value anything
 */
export const isContext = (value: unknown): value is Context => isBranded(value) && 'hasFallback' in value;

/** The options of `context`. */
export interface ContextOptions<T> {
  /** The value if none is given. Without a fallback, a form waits, and everything else throws. */
  readonly fallback?: T;
  /** The schema that validates its value when the command reads it from a file. */
  readonly schema?: Node<T>;
}

/**
 * Declares a fact from outside the form. Its value is given as `context: [token.of(value)]` to `createGate`, `validate`,
 * `validateAsync` and `validateRequest`, and changed by `gate.setContext(token, value)`.
 *
 * @param name for error messages, and for the file that the command takes
 * @param options `fallback`, a value where none is given, and `schema`, which validates what the command is given
 * @returns the token
 *
 * @example
 * export const maxBeam = context<number>('maxBeam');
 * const boat = group({ beam: number('Beam (m)', check((beam) => beam <= maxBeam.get() || `At most ${maxBeam.get()} m`)) });
 * validate(boat, { beam: '4.5' }, { context: [maxBeam.of(4)] });
 */
export function context<T>(name: string, options: ContextOptions<T> = {}): Context<T> {
  assertUse(typeof name === 'string' && name !== '', DEV && 'context() takes a name. Write context("tides").');
  return tokenOf(new ContextToken(name, options));
}
