// The parts of a schema. A node is a value: nothing in it changes after it was made, so that one may be used in many
// schemas. Its types live under phantom symbols (never present at run time, never offered in completion).

import { assert } from '#development';
import type { Catalogue, Label, Text } from '../messages/text.ts';
import type { AnyRule, Stage, Verdict } from './rule.ts';
import type { Walk } from './walk.ts';

export declare const DATA: unique symbol;
export declare const RAW: unique symbol;
export declare const CHILDREN: unique symbol;

/** Any part of a schema: a field, a group, a list. */
export interface Node<out D = unknown, out R = unknown, out K extends object = object> {
  readonly [DATA]: D;
  readonly [RAW]: R;
  readonly [CHILDREN]: K;
  /** What it holds: `'text'`, `'number'`, `'group'`, ... */
  readonly kind: string;
  /** How messages call it. */
  readonly label: Label;
  readonly hint: Label | undefined;
}

/** The typed values that a valid form of this schema yields. */
export type DataOf<N extends Node> = N[typeof DATA];
/** What the controls of a form of this schema hold. */
export type RawOf<N extends Node> = N[typeof RAW];

/** Settings that every part of a schema takes in place of its label. */
export interface Settings {
  readonly label: Label;
  /** Shown beside the field before anything is wrong. */
  readonly hint?: Label | undefined;
  /** When the findings of this field become visible; default: as the form says. */
  readonly reveal?: Stage | undefined;
  /** Whether its value is kept out of drafts: passwords and the like. Default false. */
  readonly private?: boolean | undefined;
  /** Messages of this field, by code; they go before the catalogue. */
  readonly messages?: { readonly [code: string]: Text } | undefined;
  /** How it may be missing where JSON is judged (`validate` with `source: 'json'`); ignored for forms. */
  readonly inJson?: InJson | undefined;
}

/** How a value may be missing in JSON. */
export interface InJson {
  /** Whether `null` is taken, for no value. Default false: `null` is of a type of its own. */
  readonly nullable?: boolean | undefined;
  /** Whether it may be left out. Default: as its rules say; a group that is left out is judged as an empty one. */
  readonly absent?: 'accepted' | 'refused' | undefined;
}

/** A label, or settings; but not the texts of a label by language, which belong into settings. */
export type LabelOr<S extends Settings> = string | S;

/** The settings, whichever way they were given. */
export const toSettings = <S extends Settings>(given: LabelOr<S>): S => (typeof given === 'string' ? ({ label: given } as S) : given);

/** In place of data: the value has none of its type yet (it cannot be read, or is empty though required). */
export const NO_VALUE: unique symbol = Symbol.for('upper-gate: no value yet');

/** A message, and what it was written from. */
export interface WordedVerdict {
  readonly verdict: Verdict;
  readonly catalogue: Catalogue | undefined;
  readonly message: string;
}

/** A node as the library's own machinery sees it. */
export abstract class Part {
  abstract readonly kind: string;
  readonly label: Label;
  readonly hint: Label | undefined;
  readonly reveal: Stage | undefined;
  readonly private: boolean;
  readonly messages: { readonly [code: string]: Text } | undefined;
  readonly inJson: InJson | undefined;
  /** The rules on the value itself, in the order in which they report. */
  readonly ruleList: readonly AnyRule[];
  /** Whether a rule here or further in asks over the network. */
  abstract readonly hasAsyncRules: boolean;

  /** The last message of each rule, so that it need not be written out again. */
  worded: Map<AnyRule | undefined, WordedVerdict> | undefined;

  constructor({ label, hint, reveal, private: isPrivate = false, messages, inJson }: Settings, rules: readonly AnyRule[]) {
    assert(() => !label && `A field needs a label: messages call it by that. Give a text, or settings with a label. It got none.`);
    this.label = label;
    this.hint = hint;
    this.reveal = reveal;
    this.private = isPrivate;
    this.messages = messages;
    this.inJson = inJson;
    this.ruleList = rules;
  }

  /**
   * Reads and judges a raw value (called by `judgePart` alone). Findings go to the run, with paths relative to this part.
   * Never throws.
   *
   * @returns the data, or `HOLE` where there is none of the right type
   */
  abstract walk(raw: unknown, run: Walk): unknown;

  /** Whether a JSON value is of the type that this holds. */
  abstract acceptsJson(value: unknown): boolean;

  /** Whether data counts as empty: only the rules that ask for a value judge it. */
  isEmpty(data: unknown): boolean {
    return data === undefined;
  }

  /** Whether the rules that do not ask for a value have nothing to judge in data. */
  skipsRules(data: unknown): boolean {
    return data === undefined;
  }

  /** What a row of a list is, whose rows are this. */
  get row(): Part {
    return partOf(this as never);
  }

  /** The part under a name or index. */
  child(_key: string): Part | undefined {
    return undefined;
  }

  /** Where the part under a name or index stands among its siblings, if it is one. */
  positionOf(_key: string): number | undefined {
    return undefined;
  }

  /** What callbacks see of data: data itself, or a view that ends them where they read a field without a value. */
  readForRule(data: unknown, _run: Walk): unknown {
    return data;
  }
}

/** The machinery's view of a node. */
export const partOf = (node: Node): Part => node as unknown as Part;

/**
 * Whether a value is a schema, or a part of one.
 *
 * @example
 * isSchema(text('Name')) // true
 */
export const isSchema = (value: unknown): value is Node =>
  // Not by class: a program may hold two copies of this library.
  typeof (value as Partial<Part> | null | undefined)?.walk === 'function' && typeof (value as Part).kind === 'string';

/**
 * Whether a schema holds rules that ask over the network: `validate` cannot judge by them, `validateAsync` can.
 *
 * @example
 * hasAsyncRules(text('Registration', asyncCheck(isOnRegister))) // true
 */
export const hasAsyncRules = (schema: Node): boolean => partOf(schema).hasAsyncRules;
