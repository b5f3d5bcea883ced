// Context: facts from outside a form, such as the limits of whoever is signed in or a tide table that is fetched later. A
// token stands for a fact. Callbacks read it; whatever runs them (a form, a validation) provides its value.

import { explain } from '../../development/explain.ts';
import { DEV } from '#development';
import { assertUse, wrongUse } from '../assertUse.ts';
import { Branded, isBranded } from '../brand.ts';
import type { Kit, LiveFacts, Token } from '../kit.ts';
import type { Node } from '../node.ts';
import { LiveContext } from './live.ts';

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

/** Whoever runs callbacks, and knows the facts. */
export interface ContextSource {
  /** What a token is worth. @throws what ends the callback if that is not known */
  readContext(token: ContextToken): unknown;
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
    return source.readContext(this);
  }

  of(value: unknown): ContextValue {
    return { token: tokenOf(this), value };
  }

  attach(kit: Kit): LiveFacts {
    return new LiveContext(kit);
  }
}

const tokenOf = <T>(token: ContextToken): Context<T> => token as Context as Context<T>;

/** Who runs the callback under way. It stands on the global object, so that two copies of the library share it. */
const RUNNING: unique symbol = Symbol.for('upper-gate: running');
interface Running {
  source: ContextSource | undefined;
}
let shared: Running | undefined;
function running(): Running {
  const global = globalThis as { [RUNNING]?: Running | undefined };
  return (shared ??= global[RUNNING] ??= { source: undefined });
}

/**
 * Says who runs the callbacks that follow.
 *
 * @returns the previous reader, to restore afterwards
 */
export function swapSource(source: ContextSource | undefined): ContextSource | undefined {
  const holder = running();
  const before = holder.source;
  holder.source = source;
  return before;
}

/**
 * Returns whether a value is a token of context.
 *
 * @param value anything
 */
export const isContext = (value: unknown): value is Context => isBranded(value) && 'hasFallback' in value;

/** The values that were given, by token. @throws TypeError for what is none */
export function contextMap(given: readonly ContextValue[] | undefined): ReadonlyMap<ContextToken, unknown> | undefined {
  if (given === undefined) return undefined;
  for (const entry of given as readonly unknown[])
    assertUse(
      isContext((entry as Partial<ContextValue> | undefined)?.token),
      DEV && 'The option context takes tokens with their values. Write context: [tides.of(table)].',
    );
  return new Map(given.map(({ token, value }) => [token as unknown as ContextToken, value]));
}

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
