// The user of a form that is rehearsed, and what may be expected of what that user sees.

import { stateOf } from '../gate/fieldState.ts';
import type { AnyGate, Gate, ItemAt, ListPathOf } from '../gate/gate.ts';
import type { Values } from '../gate/values.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import { checking } from '../messages/english.ts';
import { formatText } from '../messages/text.ts';
import type { Context } from '../schema/context/context.ts';
import type { DATA, Node, RAW } from '../schema/node.ts';
import type { At, PathOf } from '../schema/paths.ts';
import { sameValue } from '../schema/sameValue.ts';
import { plain } from '../trace/plain.ts';
import type { VirtualClock } from './clock.ts';
import { asHeld } from './held.ts';
import type { Expected, Step } from './script.ts';

/** A field, or the form as a whole: `''`. */
type Place<N, P extends string> = P extends '' ? P : PathOf<N, P>;
/** The value that a field may be given: as its control holds it, or data. */
type Given<N extends Node> = N[typeof RAW] | N[typeof DATA];

/** What the user of a form does, and sees. Each call waits for all that follows at once; time passes only where it says so. */
export interface User<N extends Node = Node> {
  /** The gate, for what the program does meanwhile. */
  readonly gate: Gate<N>;
  /**
   * Types a text, which replaces what is there: one change for each character.
   *
   * @param path the path of the field
   * @param text the text
   * @param options `pace`: milliseconds between two characters; default 0
   * @returns a promise: wait for it
   */
  types<P extends string>(path: PathOf<N, P>, text: string, options?: { readonly pace?: number }): Promise<void>;
  /**
   * Changes a control, once.
   *
   * @param path the path of the field
   * @param value what the control holds then, or data
   * @returns a promise: wait for it
   */
  enters<P extends string>(path: PathOf<N, P>, value: Given<At<N, P>>): Promise<void>;
  /**
   * Leaves a field.
   *
   * @param path the path of the field
   * @returns a promise: wait for it
   */
  leaves<P extends string>(path: PathOf<N, P>): Promise<void>;
  /**
   * Adds a row.
   *
   * @param path the path of the list
   * @param value what it holds; default: nothing
   * @param at its index; default: at the end
   * @returns a promise: wait for it
   */
  adds<P extends string>(path: ListPathOf<N, P>, value?: Values<ItemAt<N, P>>, at?: number): Promise<void>;
  /**
   * Removes a row.
   *
   * @param path the path of the list
   * @param row its index
   * @returns a promise: wait for it
   */
  removes<P extends string>(path: ListPathOf<N, P>, row: number): Promise<void>;
  /**
   * Moves a row.
   *
   * @param path the path of the list
   * @param from its index
   * @param to its index afterwards
   * @returns a promise: wait for it
   */
  moves<P extends string>(path: ListPathOf<N, P>, from: number, to: number): Promise<void>;
  /**
   * Submits the form. What its answers bring comes later: `waits()`.
   *
   * @returns a promise: wait for it
   */
  submits(): Promise<void>;
  /**
   * Waits.
   *
   * @param milliseconds how long; default: until no async rule and no submission is under way
   * @returns a promise: wait for it
   */
  waits(milliseconds?: number): Promise<void>;
  /**
   * Expects a message at a field, or that the field is being checked.
   *
   * @param path the path of the field; `''` for the form
   * @param text the text, or a part of it
   * @returns a promise: wait for it
   * @throws RehearsalError if there is none
   */
  sees<P extends string>(path: Place<N, P>, text: string): Promise<void>;
  /**
   * Expects no message at a field, and nothing under way.
   *
   * @param path the path of the field; `''` for the form
   * @returns a promise: wait for it
   * @throws RehearsalError if there is one
   */
  seesNothing<P extends string>(path: Place<N, P>): Promise<void>;
  /**
   * Expects a state of a field.
   *
   * @param path the path of the field; `''` for the form
   * @param expected the state: `{ valid: true, codes: [] }`
   * @returns a promise: wait for it
   * @throws RehearsalError if it is another
   */
  expects<P extends string>(path: Place<N, P>, expected: Expected): Promise<void>;
}

/** The longest time that `waits()` waits, in milliseconds: some forms are never quiet. */
const LONGEST = 24 * 3600 * 1000;

/** What runs the steps of a rehearsal. */
export interface Stage {
  readonly gate: AnyGate;
  readonly clock: VirtualClock;
  readonly tokens: ReadonlyMap<string, Context>;
  /** Ends the rehearsal, with what was expected and what there is. */
  readonly fail: (text: string) => never;
  /** Called after each step: ends the rehearsal at what the script did not answer. */
  readonly check: () => void;
}

const quoted = (value: unknown): string => (value === undefined ? 'undefined' : JSON.stringify(value));

/** Runs steps, one after another. */
export function createActor({ gate, clock, tokens, fail, check }: Stage): (step: Step) => Promise<void> {
  const { store, submission } = internalsOf(gate);
  const find = (path: string): BaseNode => store.find(path) ?? fail(`The form has no field "${path}".`);
  const edit = (node: BaseNode, value: unknown): void => node.edit(asHeld(node.part, value));
  const asUser = (act: () => unknown): void => void store.actAs('page', act);

  /** What is to be seen at a node. */
  const seenAt = (node: BaseNode): readonly string[] => {
    const { shown, pending, label } = stateOf(store, node);
    const words = { label, locale: store.catalogue?.locale ?? 'en' };
    const isChecking = pending && node.parent !== undefined;
    return [...shown.map(({ message }) => message), ...(isChecking ? [formatText(store.catalogue?.['checking'] ?? checking, words)] : [])];
  };
  const isQuiet = (): boolean => store.root.pending === 0 && submission.status !== 'checking' && submission.status !== 'sending';
  const until = async (): Promise<void> => {
    await clock.settle();
    const limit = clock.passed + LONGEST;
    while (!isQuiet() && clock.next !== undefined && clock.next <= limit) await clock.pass(clock.next - clock.passed);
    if (!isQuiet()) fail('Something is still under way, and nothing will end it: an answer never comes.');
  };
  const compare = (path: string, expected: Expected): void => {
    const node = find(path);
    const state = stateOf(store, node);
    const now: Readonly<Record<string, unknown>> = {
      ...state,
      status: submission.status,
      codes: state.findings.map(({ code }) => code),
      options: state.options?.map(({ value }) => value),
    };
    for (const [key, value] of Object.entries(expected))
      if (!(key in now)) fail(`A field has no state "${key}". Expect one of ${Object.keys(now).join(', ')}.`);
      else if (!sameValue(plain(now[key]), plain(value)))
        fail(`Expected ${key} ${quoted(value)} at ${quoted(path)}; it is ${quoted(now[key])}.`);
  };

  /** Does a step. @returns how long to wait after it */
  const act = async (step: Step): Promise<void> => {
    if ('types' in step) {
      const { types, text, pace = 0 } = step;
      const characters = Array.from(new Intl.Segmenter().segment(text), ({ segment }) => segment);
      for (const [index] of characters.entries()) {
        if (index > 0) await clock.pass(pace);
        asUser(() => find(types).edit(characters.slice(0, index + 1).join('')));
      }
    } else if ('enters' in step) asUser(() => edit(find(step.enters), step.value));
    else if ('leaves' in step) asUser(() => gate.field(step.leaves).leave());
    else if ('adds' in step) asUser(() => gate.list(step.adds).add(asHeld(find(step.adds).part.locate?.('0')?.part, step.value), step.at));
    else if ('removes' in step) asUser(() => gate.list(step.removes).remove(step.row));
    else if ('moves' in step) asUser(() => gate.list(step.moves).move(step.from, step.to));
    // (What its handler throws is in the trace.)
    else if ('submits' in step) asUser(() => void gate.submit().catch(() => undefined));
    else if ('waits' in step) await (step.waits === 'quiet' ? until() : clock.pass(step.waits));
    else if ('sets' in step) edit(find(step.sets), step.value);
    else if ('resets' in step) {
      if (step.resets === '') gate.reset(asHeld(store.root.part, step.value));
      else gate.field(step.resets).reset();
    } else if ('rebases' in step) gate.rebase(asHeld(store.root.part, step.rebases));
    else if ('validates' in step) void gate.validate(step.validates, { reveal: step.reveal ?? true });
    else if ('learns' in step) {
      const token = tokens.get(step.learns) ?? fail(`Nobody gave the context "${step.learns}".`);
      gate.setContext(token as never, step.value as never);
    } else if ('finds' in step) gate.addFindings(step.finds);
    else if ('sees' in step) {
      const seen = seenAt(find(step.sees));
      if (!seen.some((text) => text.includes(step.text)))
        fail(
          `Expected to see ${quoted(step.text)} at ${quoted(step.sees)}. ${seen.length > 0 ? `There is ${seen.map(quoted).join(', ')}.` : 'There is nothing.'}`,
        );
    } else if ('seesNothing' in step) {
      const seen = seenAt(find(step.seesNothing));
      if (seen.length > 0) fail(`Expected to see nothing at ${quoted(step.seesNothing)}. There is ${seen.map(quoted).join(', ')}.`);
    } else if ('expects' in step) {
      const { expects, ...expected } = step;
      compare(expects, expected);
    } else fail(`This is no step: ${quoted(step)}.`);
  };
  return async (step) => {
    // What begins by itself, such as options that load, has begun before.
    await clock.settle();
    await act(step);
    await clock.settle();
    check();
  };
}

/** The user, who acts by steps. */
export function createUser(stage: Stage): User {
  const act = createActor(stage);
  return {
    gate: stage.gate as Gate<Node>,
    types: (types: string, text: string, { pace = 0 } = {}) => act({ types, text, pace }),
    enters: (enters: string, value: unknown) => act({ enters, value }),
    leaves: (leaves: string) => act({ leaves }),
    adds: (adds: string, value?: unknown, at?: number) => act({ adds, value, ...(at !== undefined && { at }) }),
    removes: (removes: string, row: number) => act({ removes, row }),
    moves: (moves: string, from: number, to: number) => act({ moves, from, to }),
    submits: () => act({ submits: true }),
    waits: (milliseconds) => act({ waits: milliseconds ?? 'quiet' }),
    sees: (sees: string, text: string) => act({ sees, text }),
    seesNothing: (seesNothing: string) => act({ seesNothing }),
    expects: (expects: string, expected: Expected) => act({ expects, ...expected }),
  };
}
