// The parts of a schema, as those who declare and use one see them. A part is a value: nothing in it changes after it was
// made, so that one may be used in many schemas. Its types live under phantom symbols (never present at run time, never
// offered in completion).

import type { Label, Texts } from '../messages/text.ts';
import type { Stage } from './verdict.ts';

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
  /** What it holds: `'text'`, `'number'`, `'group'`, ... */
  readonly kind: string;
  /** Its name in messages. */
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
  /** Messages of this field, by code; they take precedence over the catalogue. */
  readonly messages?: Texts | undefined;
  /** How it may be missing where JSON is validated (`validate` with `source: 'json'`); ignored for forms. */
  readonly inJson?: InJson | undefined;
}

/** How a value may be missing in JSON. */
export interface InJson {
  /** Whether `null` is accepted, for no value. Default false: `null` is a type. */
  readonly nullable?: boolean | undefined;
  /** Whether it may be left out. Default: as its rules say; a group that is left out is validated as an empty one. */
  readonly absent?: 'accepted' | 'refused' | undefined;
}

/** Settings of what holds values `T`. */
export interface FieldSettings<T> extends Settings {
  /**
   * What it holds to begin with where nothing else is given, neither by the form's `initial` nor by the page: data, or a function
   * that makes it, for each form and each row anew. `validate` and servers know nothing of it.
   */
  readonly default?: T | (() => T) | undefined;
}

/** A label, or settings; but not the texts of a label by language, which belong into settings. */
export type LabelOr<S extends Settings> = string | S;
