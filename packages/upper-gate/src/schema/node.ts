// The parts of a schema, as those who declare and use one see them. A part is a value: nothing in it changes after it was
// made, so that one may be used in many schemas. Its types live under phantom symbols (never present at run time, never
// offered in completion).

import type { Label, Texts } from '../messages/text.ts';
import type { Stage, Verdict } from './verdict.ts';
import type { Traits } from './traits.ts';

export declare const DATA: unique symbol;
export declare const RAW: unique symbol;
export declare const CHILDREN: unique symbol;
/** What the rules on a field get, where that says more than its data. */
export declare const VALUE: unique symbol;

/** Any part of a schema: a field, a group, a list. */
export interface Node<out D = unknown, out R = unknown, out K extends object = object> {
  readonly [DATA]: D;
  readonly [RAW]: R;
  readonly [CHILDREN]: K;
  /** The kind: `'text'`, `'number'`, `'group'`, ... */
  readonly kind: string;
  /** What is known of the kind: what it holds, what its limits are about, how a control shows it. */
  readonly traits: Traits;
  /** The name in messages. */
  readonly label: Label;
  readonly hint: Label | undefined;
}

/** The typed data of a valid form of this schema. */
export type DataOf<N extends Node> = N[typeof DATA];
/** The raw values of a form of this schema. */
export type RawOf<N extends Node> = N[typeof RAW];

/** The settings that every part of a schema takes in place of its label. */
export interface Settings {
  readonly label: Label;
  /** Help that is shown beside the field. */
  readonly hint?: Label | undefined;
  /** When the findings of this field become visible. Default: that of the form. */
  readonly reveal?: Stage | undefined;
  /** Whether its value is kept out of drafts: passwords and the like. Default false. */
  readonly private?: boolean | undefined;
  /** Messages of this field, by code; they take precedence over the catalogue. */
  readonly messages?: Texts | undefined;
  /** How the value may be missing in JSON (`validate` with `source: 'json'`). Ignored for forms. */
  readonly inJson?: InJson | undefined;
}

/** How a value may be missing in JSON. */
export interface InJson {
  /** Whether `null` is accepted, for no value. Default false: `null` is a type. */
  readonly nullable?: boolean | undefined;
  /** Whether the value may be left out. Default: by its rules; a group that is left out is validated as an empty one. */
  readonly absent?: 'accepted' | 'refused' | undefined;
  /** Whether an empty text is a value, as JSON Schema has it. Default: it is no value. */
  readonly empty?: 'value' | undefined;
  /** What is wrong with a value of another type than its kind's, where a document says no type; `undefined` for one of its type. */
  readonly other?: ((raw: unknown) => readonly Verdict[] | undefined) | undefined;
}

/** Settings of what holds values `T`. */
export interface FieldSettings<T> extends Settings {
  /**
   * The initial value, unless `initial` or the page gives one: data, or a function that makes it for each form and each row.
   * `validate` and servers don't use it.
   */
  readonly default?: T | (() => T) | undefined;
}

/** A label, or settings; but not the texts of a label by language, which belong into settings. */
export type LabelOr<S extends Settings> = string | S;
