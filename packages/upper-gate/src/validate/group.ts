// How a whole value of a group is walked: each field by itself, in order; then the rules that read several fields.

import { toFinding } from '../evaluate/finding.ts';
import { unknown } from '../messages/english.ts';
import type { Catalogue } from '../messages/text.ts';
import type { FieldPart } from '../schema/field.ts';
import { join, type Finding } from '../schema/finding.ts';
import { isGroup, type GroupPart, type Way } from '../schema/group.ts';
import type { Scopes } from '../schema/kit.ts';
import { NO_VALUE } from '../schema/noValue.ts';
import type { Part, Walker } from '../schema/part.ts';
import { jsonTypeOf, ownKeys, ownRaw } from '../schema/safeAccess.ts';
import { type Entry, isPendingCheck } from './entries.ts';
import { type FieldWalker, walkField } from './field.ts';
import { makeView } from '../schema/view.ts';
import type { ValueView } from './view.ts';

/** What walking a group needs of the walk. */
export interface GroupWalker extends Walker, FieldWalker {
  readonly isJson: boolean;
  missing: number;
  readonly entries: Entry[];
  readonly catalogue: Catalogue | undefined;
  /** Whether keys that the schema does not know are findings. */
  readonly refuseUnknown: boolean;
  /** Whether entries have come out of schema order. */
  unsorted: boolean;
  /** Keeps a finding, as far as the limit allows. */
  keep(finding: Finding): void;
  /** Puts a key before the paths of all that was reported from an entry on. */
  prefix(from: number, key: string | number): void;
  /** What conditions see of the part that is walked, if there are any. */
  view: ValueView | undefined;
  /** The same of a group. */
  viewOf(part: GroupPart, raw: unknown): ValueView | undefined;
  /**
   * Data as callbacks read it: where a value is missing, whoever reads that waits.
   *
   * @param from the depth of the group that declares the callback; default: that of the data
   */
  readable(data: unknown, from?: number): unknown;
}

type Values = Readonly<Record<string, unknown>>;
type Data = Record<string, unknown>;

/** Whether a part is a field without its own walk, as most are. */
const isPlain = (part: Part): part is FieldPart => part.isLeaf && part.walk === undefined;

/**
 * @param known a key that belongs to the value beside those of the fields
 * @returns the data, `NO_VALUE` for fields that have none; or `NO_VALUE` if it is no object
 */
export function walkGroup(part: GroupPart, raw: unknown, walk: GroupWalker, known: string | undefined): unknown {
  const type = jsonTypeOf(raw);
  if (type !== 'none' && type !== 'object') return walk.reject(part);
  const values = (raw ?? {}) as Values;
  const { entries, missing, view: outer } = walk;
  const start = entries.length;
  const data = new part.Data();
  const view = walk.viewOf(part, raw);
  if (view) {
    walk.view = view;
    walkConditional(part, values, data, walk, view);
  } else if (part.isPartial) walkPresent(part, values, data, walk);
  else walkFields(part, values, data, walk);
  walk.close(data, missing);
  if (part.stepRules.length > 0 || walk.collectAsync) walkSteps(part, data, walk, start);
  walk.view = outer;
  if (walk.refuseUnknown || part.unknown)
    for (const name of ownKeys(values))
      if (!part.positions.has(name) && name !== known)
        walk.keep(toFinding(name, part, undefined, { code: 'unknown', text: unknown, params: { name } }, walk.catalogue));
  return data;
}

function walkFields({ keys, parts }: GroupPart, values: Values, data: Data, walk: GroupWalker): void {
  const { entries } = walk;
  // Enumeration is the fastest way to read an object (and this the only `hasOwn` that engines see through in it). It
  // serves as long as the keys come in schema order.
  let i = 0;
  try {
    for (const key in values) {
      if (key !== keys[i] || !Object.prototype.hasOwnProperty.call(values, key)) break;
      const { length } = entries;
      const child = parts[i]!;
      data[key] = isPlain(child) && !walk.isJson ? walkField(child, values[key], walk) : walk.instead(child, values[key]);
      if (entries.length !== length) walk.prefix(length, key);
      i += 1;
    }
  } catch {
    // A getter or a proxy threw: the guarded reads below find out at which key.
  }
  for (; i < keys.length; i += 1) data[keys[i]!] = walk.child(parts[i]!, ownRaw(values, keys[i]!), keys[i]!);
}

/** Walks the fields that are there, of a group of which others may be left out. */
function walkPresent({ keys, parts }: GroupPart, values: Values, data: Data, walk: GroupWalker): void {
  const there = new Set(ownKeys(values));
  keys.forEach((key, i) => {
    if (there.has(key)) data[key] = walk.child(parts[i]!, ownRaw(values, key) ?? null, key);
  });
}

/** Walks the fields that apply. */
function walkConditional({ keys, parts }: GroupPart, values: Values, data: Data, walk: GroupWalker, view: ValueView): void {
  keys.forEach((key, i) => {
    const field = view.children.get(key);
    // Of a group of which fields may be left out.
    if (!field) return;
    const { applies, verdict } = field.settle();
    const from = walk.entries.length;
    for (const error of field.errors) walk.fault(error, 'appliesWhen');
    if (verdict) walk.report(parts[i]!, undefined, verdict);
    walk.prefix(from, key);
    data[key] = applies ? walk.child(parts[i]!, ownRaw(values, key), key) : undefined;
    // What was taken away from further out is missing to those who know nothing of it.
    if (field.isTakenFrom(view.depth)) walk.missing += 1;
  });
}

/** Runs the rules of the steps of a group. @param start the first entry that is about what is in it */
function walkSteps(part: GroupPart, data: Data, walk: GroupWalker, start: number): void {
  const { entries, view } = walk;
  const siblings = walk.readable(data);
  const scopes: Scopes = [siblings, siblings];
  for (let i = start; i < entries.length; i += 1) {
    const entry = entries[i]!;
    if (isPendingCheck(entry)) entry.scopes ??= scopes;
  }
  const before = entries.length;
  for (const { way, rule } of part.stepRules) {
    if (way.length === 0) walk.rule(rule, part, data, scopes);
    else
      reach(part, data, view, way, '', (target, value, path, beside, keys) => {
        const from = entries.length;
        walk.rule(rule, target, value, beside === data ? scopes : [siblings, besideOf(keys, walk.readable(beside, view?.depth ?? 0))]);
        walk.prefix(from, path);
      });
  }
  if (entries.length > before) walk.unsorted = true;
}

/** The fields of a group alone: those of a case stand beside the choice. */
const besideOf = (keys: readonly string[], data: unknown): unknown =>
  Object.keys(data as Data).length === keys.length ? data : makeView(keys, (key) => (data as Data)[key]);

/**
 * Visits what a step leads to: a field, or one in each row of a list on the way. What does not apply is not there.
 *
 * @param visit is given the part, its data, its path, and the data of the group that it is in, with its keys
 */
function reach(
  part: Part,
  data: unknown,
  view: ValueView | undefined,
  way: Way,
  path: string,
  visit: (part: Part, data: unknown, path: string, beside: object, keys: readonly string[]) => void,
): void {
  if (data === NO_VALUE || data === undefined) return;
  const [key, ...rest] = way as readonly [string, ...string[]];
  if (isGroup(part)) {
    const field = view?.children.get(key);
    if (field && !field.settle().applies) return;
    const inner = part.parts[part.positions.get(key)!]!;
    const value = (data as Data)[key];
    const at = join(path, key);
    if (rest.length === 0) visit(inner, value, at, data as Data, part.keys);
    else reach(inner, value, field, rest, at, visit);
    return;
  }
  for (const piece of part.pieces?.(data) ?? []) {
    const inner = view?.children.get(String(piece.key));
    if (piece.step === undefined) reach(piece.part, piece.raw, inner, way, join(path, piece.key), visit);
    else if (piece.step === key) reach(piece.part, piece.raw, inner, rest, path, visit);
  }
}
