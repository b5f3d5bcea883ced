// How a whole value of a group is walked: each field by itself, in order; then the rules that read several fields.

import { circleError, circleThrough, runConditions } from '../evaluate/applies.ts';
import { toFinding } from '../evaluate/finding.ts';
import { unknown } from '../messages/english.ts';
import type { Catalogue } from '../messages/text.ts';
import type { FieldPart } from '../schema/field.ts';
import type { Finding } from '../schema/finding.ts';
import type { GroupPart } from '../schema/group.ts';
import type { Part, Walker } from '../schema/part.ts';
import { jsonTypeOf, ownKeys, ownRaw } from '../schema/safeAccess.ts';
import { type Entry, isPendingCheck } from './entries.ts';
import { type FieldWalker, walkField } from './field.ts';

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
  /** Data as callbacks read it: where a value is missing, whoever reads that waits. */
  readable(data: unknown): unknown;
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
  const { keys, parts } = part;
  const { entries, missing } = walk;
  const start = entries.length;
  const data = new part.Data();
  let off: ReadonlySet<string> | undefined;
  if (part.conditions.size > 0) off = walkConditional(part, values, data, walk);
  else {
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
  walk.close(data, missing);
  if (part.stepRules.length > 0 || walk.collectAsync) {
    const siblings = walk.readable(data);
    for (let i = start; i < entries.length; i += 1) {
      const entry = entries[i]!;
      if (isPendingCheck(entry)) entry.siblings ??= siblings;
    }
    const before = entries.length;
    for (const { key, rule } of part.stepRules) {
      if (key === undefined) walk.rule(rule, part, data, siblings);
      else if (!off?.has(key)) {
        const from = entries.length;
        walk.rule(rule, part.locate(key)!.part, data[key], siblings);
        walk.prefix(from, key);
      }
    }
    if (entries.length > before) walk.unsorted = true;
  }
  if (off) walk.unsorted = true;
  if (walk.refuseUnknown || part.unknown)
    for (const name of ownKeys(values))
      if (!part.positions.has(name) && name !== known)
        walk.keep(toFinding(name, part, undefined, { code: 'unknown', text: unknown, params: { name } }, walk.catalogue));
  return data;
}

/**
 * Walks the fields that apply, and finds out which those are. Conditions read siblings that may have conditions of their
 * own, so they run on demand: reading a sibling runs its conditions first. Where that shows a circle, all begins again,
 * with the fields of the circle applying whatever their conditions come to.
 *
 * @returns the fields that do not apply
 */
function walkConditional(part: GroupPart, values: Values, data: Data, walk: GroupWalker): ReadonlySet<string> {
  const { entries, missing } = walk;
  const { length } = entries;
  const circular = new Set<string>();
  const faults: Error[] = [];
  for (;;) {
    const { off, reads } = walkOnce(part, values, data, walk, circular);
    const circles = part.keys.flatMap((key) => {
      const circle = circular.has(key) ? undefined : circleThrough(key, (other) => reads.get(other) ?? []);
      circle?.forEach((member) => circular.add(member));
      return circle ? [circle] : [];
    });
    if (circles.length === 0) {
      for (const fault of faults) walk.fault(fault, 'appliesWhen');
      return off;
    }
    entries.length = length;
    walk.missing = missing;
    for (const circle of circles) faults.push(circleError(circle));
  }
}

/** @param circular the fields that apply whatever their conditions come to */
function walkOnce(
  { keys, parts, conditions, positions }: GroupPart,
  values: Values,
  data: Data,
  walk: GroupWalker,
  circular: ReadonlySet<string>,
) {
  // All keys from the start, so that data has them in schema order.
  for (const key of keys) data[key] = undefined;
  const off = new Set<string>();
  const walked = new Set<string>();
  /** The fields that the conditions of a field have read. */
  const reads = new Map<string, Set<string>>();
  const walkKey = (key: string): void => {
    if (walked.has(key)) return;
    walked.add(key);
    data[key] = walk.child(parts[positions.get(key)!]!, ownRaw(values, key), key);
  };
  const settle = (key: string): void => {
    if (walked.has(key) || off.has(key)) return;
    // A field whose conditions are running, or in a circle: it applies.
    if (reads.has(key)) return walkKey(key);
    const read = new Set<string>();
    reads.set(key, read);
    if (circular.has(key)) walkKey(key);
    const siblings = new Proxy(data, {
      get(_, name: string) {
        if (!positions.has(name)) return undefined;
        read.add(name);
        settle(name);
        return off.has(name) ? undefined : walk.readable(data[name]);
      },
    });
    const faults: unknown[] = [];
    const { applies, verdict } = runConditions(conditions.get(key) ?? [], siblings, { fault: (error) => faults.push(error) });
    const from = walk.entries.length;
    for (const error of faults) walk.fault(error, 'appliesWhen');
    if (verdict) walk.report(parts[positions.get(key)!]!, undefined, verdict);
    walk.prefix(from, key);
    if (applies) walkKey(key);
    else if (!walked.has(key)) off.add(key);
  };
  keys.forEach(settle);
  return { off, reads };
}
