// The parts of a schema, as the library's own machinery sees them.

import { keysOf } from './finding.ts';
import { declared, DEV, devAssert, devObject, got } from '#development';
import { inLanguage, isLabel, type Label } from '../messages/text.ts';
import { assertFits, Branded, isBranded } from './brand.ts';
import type { Params } from './finding.ts';
import type { LiveNode, NodeKit } from './kit.ts';
import type { FieldSettings, LabelOr, Node, Settings } from './node.ts';
import type { RawOptions } from './option.ts';
import type { AnyRule } from './rule.ts';
import type { Traits } from './traits.ts';
import type { Walker } from './walker.ts';

/** The label of a group that was given none. */
export const UNNAMED = 'Form';

/** Where a part stands in the one around it. */
export interface Location {
  readonly part: Part;
  /** Its position among its siblings. */
  readonly position: number;
}

/** A part of a value, raw or data. */
export interface Piece {
  readonly part: Part;
  readonly raw: unknown;
  readonly key: string | number;
  /** The name that clauses of groups further out have for it. Undefined where they pass through it, as through the rows of a list. */
  readonly name?: string;
}

/** What a clause names further in. */
export interface Inside {
  readonly part: Part;
  /** Whether it only stands between, as a case of a variant does: no rule can be on it. */
  readonly isBetween: boolean;
}

/** A part of a value as callbacks see it: read when they read it. */
export interface SeenPiece {
  readonly key: string;
  /** @throws WAITING if it has no value of its type */
  read(): unknown;
  /** What is in it under a name, of a part whose fields stand beside others. */
  field(name: string): unknown;
}

/** What a clause of a group says about the parts in the group. */
export interface Reach {
  /** The same of the parts further in, by the names that clauses give them. A list's rows have none: it passes through. */
  readonly below: ReadonlyMap<string, Reach>;
  /** Attaches what it says about a part to the node of that part. @param scope the node of the group */
  attach(node: LiveNode<Part>, scope: LiveNode<Part>): void;
}

/** What a clause has for a part in its group, and the way there. `T` is a rule, or a condition. */
export interface Placed<T> {
  readonly way: Way;
  readonly what: T;
}

/** Where a clause leads: the names of the fields on the way in. A list's rows have none on it. */
export type Way = readonly string[];

/** The clauses of a group, as far as other parts are concerned. */
interface PartClauses {
  readonly fieldRules?: { readonly list: readonly Placed<AnyRule>[] };
  /** What they say about the parts further in. */
  readonly reaches?: readonly Reach[];
}

export abstract class Part extends Branded {
  abstract readonly kind: string;
  /** What is known of its kind. */
  abstract readonly traits: Traits;
  /** What its author gave, as it is; among it what it holds to begin with (`default`), or a function that makes it. */
  readonly settings: FieldSettings<unknown>;
  readonly label: Label;
  readonly hint: Label | undefined;
  /** The rules on the value itself, in the order in which they report. */
  readonly ruleList: readonly AnyRule[];
  /** The rule that requires a value, if there is one. */
  readonly required: AnyRule | undefined;
  /** Walks a whole value, for kinds that bring their own way; fields and groups have none. Reports to the walker, never throws. */
  readonly walk: ((raw: unknown, walker: Walker) => unknown) | undefined;
  /** Whether a rule here or further in is async, once somebody has asked. */
  isAsync?: boolean;

  /** Vue makes no proxy of what says so: private members cannot be reached through one. */
  get __v_skip(): true {
    return true;
  }

  constructor(settings: FieldSettings<unknown>, rules: readonly AnyRule[], walk?: (raw: unknown, walker: Walker) => unknown) {
    super();
    if (DEV) Object.assign(this, declared());
    this.settings = settings;
    this.label = settings.label;
    this.hint = settings.hint;
    this.ruleList = rules;
    this.walk = walk;
    for (const rule of rules)
      assertFits(
        rule,
        DEV &&
          `What stands in place of a rule of "${inLanguage(this.label, undefined)}" is not one. ${got(rule)} Give required(), check(...) or another rule.`,
      );
    this.required = rules.find((rule) => rule.requires);
    devAssert(() =>
      !isLabel(this.label) || this.label === ''
        ? `A part needs a label, which messages use: a text, or settings with a label. ${got(this.label)}`
        : undefined,
    );
  }

  /** The limits among the params of a rule as messages write them, where these are not written as their type is. */
  readonly writeLimits?: ((params: Params, names: readonly string[], locale: string) => Params) | undefined;

  /** The values that it takes, as controls hold them, where they are given one by one. */
  readonly options?: RawOptions | undefined;

  /** What a row of it is called. Default: what it is called itself. */
  get rowLabel(): Label {
    return this.label;
  }

  /** Whether a value, as a form holds it, is left out: nothing in it is filled in. Only for parts that may be left out whole. */
  isLeftOut?: (raw: unknown) => boolean;

  /** Whether what is in it comes and goes. */
  readonly isOpen?: boolean;

  /** The parts that it is made of. */
  inner?(): readonly Part[];

  /** What its clauses say about the parts in it. */
  readonly clauses?: PartClauses;

  /** The parts of a value; undefined if the value is of another type, or has no parts. */
  pieces?(raw: unknown): readonly Piece[] | undefined;

  /** What callbacks see of a value of it. */
  see?(pieces: readonly SeenPiece[]): unknown;

  /** The part further in that a clause names; default: the one under that name. */
  inside?(name: string): Inside | undefined;

  /** The names that clauses can give, for errors. */
  insideNames?(): readonly string[] | undefined;

  /** Makes its node in a live form, for kinds that bring their own; fields and groups have none. */
  createNode?(kit: NodeKit<Part>, parent: LiveNode<Part> | undefined, key: string, initial: unknown): LiveNode<Part>;

  /** What replaces it as a row of a list, where each row needs its own part. */
  row?(): Part;

  /** The same in a form, which may hold rows that lie too deep. @param around the list, or dictionary */
  rowIn?(around: LiveNode<Part>): Part;

  /** Whether data counts as empty: only the rules that require a value run on it. */
  abstract isEmpty(data: unknown): boolean;

  /** The part under a name or index. @param value of this part, where that decides which part it is */
  locate?(key: string, value?: unknown): Location | undefined;
}

/** Whether a predicate holds for a part, or for one further in; each part is visited once, recursive ones too. */
export function within(part: Part, holds: (part: Part) => boolean): boolean {
  const due = new Set([part]);
  for (const each of due) {
    if (holds(each)) return true;
    for (const inner of each.inner?.() ?? []) due.add(inner);
  }
  return false;
}

/** The settings, whichever way they were given. */
export function toSettings<S extends Settings>(given: LabelOr<S>): S {
  if (typeof given === 'string') return { label: given } as S;
  devObject(given, 'Each part takes a label first, which messages use, or settings with a label: text("Vessel")');
  return given;
}

/** The machinery's view of a node. @throws TypeError for what is no part of a schema, or one of a version that does not fit */
export function partOf(node: Node): Part {
  assertFits(node, DEV && 'This is not a schema. Make one with group({ ... }), text("Name") or another kind.');
  return node as unknown as Part;
}

/** The declared view of a part, by the types that its maker gives it. */
export const nodeOf = <N extends Node>(part: Part): N => part as unknown as N;

/** The part that a clause names in another. */
export function insideOf(part: Part, name: string): Inside | undefined {
  if (part.inside) return part.inside(name);
  const found = part.locate?.(name)?.part;
  return found && { part: found, isBetween: false };
}

/** The part under a path, which the schema may lack. */
export function partAt(root: Part, path: string): Part | undefined {
  let part: Part | undefined = root;
  for (const key of keysOf(path)) part = part?.locate?.(key)?.part;
  return part;
}

/**
 * Returns whether a value is a schema, or a part of one, that this copy of the library can use.
 *
 * @param value anything
 *
 * @example
 * isSchema(text('Name')) // true
 */
export const isSchema = (value: unknown): value is Node => isBranded(value) && 'ruleList' in value;

/**
 * Returns whether a schema has async rules: only `validateAsync` can run those.
 *
 * @param schema the schema, or a part of one
 * @returns true if there is one
 *
 * @example
 * hasAsyncRules(text('Registration', asyncCheck(isOnRegister))) // true
 */
export function hasAsyncRules(schema: Node): boolean {
  const whole = partOf(schema);
  // (Not before: a recursive part does not exist when it is declared.)
  return (whole.isAsync ??= within(whole, ({ ruleList, clauses }) =>
    [...ruleList, ...(clauses?.fieldRules?.list.map(({ what }) => what) ?? [])].some((rule) => rule.async),
  ));
}
