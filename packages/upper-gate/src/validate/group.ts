// How a whole value of a group is walked: each field by itself, in order; then the rules that read several fields.

import { toFinding } from '../evaluate/finding.ts';
import { unknown } from '../messages/english.ts';
import type { Catalogue } from '../messages/text.ts';
import type { FieldPart } from '../schema/field.ts';
import { stepOf, type Finding } from '../schema/finding.ts';
import type { GroupPart } from '../schema/group.ts';
import type { Part } from '../schema/part.ts';
import { jsonTypeOf, ownKeys, ownRaw } from '../schema/safeAccess.ts';
import type { Walker } from '../schema/walker.ts';
import { walkField } from './field.ts';

/** What walking a group needs of the walk. */
export interface GroupWalker extends Walker {
  readonly catalogue: Catalogue | undefined;
  /** Whether keys that the schema does not know are findings. */
  readonly refuseUnknown: boolean;
  /** Keeps a finding, as far as the limit allows. */
  keep(finding: Finding): void;
  /** The walk has left a group. @param from the first entry that is about what is in it */
  endGroup?(data: object, from: number): void;
}

type Values = Readonly<Record<string, unknown>>;
type Data = Record<string, unknown>;

/** Whether a part is a field without its own walk, as most are. */
const isPlain = (part: Part): part is FieldPart => !part.traits.hasParts && part.walk === undefined && part.isLeftOut === undefined;

/**
 * @param known a key that belongs to the value beside those of the fields
 * @returns the data, `NO_VALUE` for fields that have none; or `NO_VALUE` if it is no object
 */
export function walkGroup(part: GroupPart, raw: unknown, walk: GroupWalker, known?: string): unknown {
  const type = jsonTypeOf(raw);
  if (type !== 'none' && type !== 'object') return walk.reject(part);
  const values = (raw ?? {}) as Values;
  const { entries, missing, view: outer } = walk;
  const start = entries.length;
  const data = new part.Data();
  const { conditions, fieldRules, groupRules } = part.clauses;
  // The conditions of a group further out see this one, too.
  const view = outer?.part === part ? outer : (conditions ?? fieldRules)?.viewOf(part, raw, walk);
  if (view) {
    walk.view = view;
    view.walkFields(values, data, walk);
  } else if (part.isPartial) walkPresent(part, values, data, walk);
  else walkFields(part, values, data, walk);
  walk.close(data, missing);
  walk.endGroup?.(data, start);
  fieldRules?.walk(part, data, walk);
  if (groupRules) {
    walk.raw = raw;
    walk.start = start;
    groupRules.walk(part, data, walk);
  }
  walk.view = outer;
  if (walk.refuseUnknown || part.settings.unknown)
    for (const name of ownKeys(values))
      if (!part.positions.has(name) && name !== known)
        walk.keep(toFinding(stepOf(name), part, undefined, { code: 'unknown', text: unknown, params: { name } }, walk.catalogue));
  return data;
}

function walkFields({ keys, parts }: GroupPart, values: Values, data: Data, walk: GroupWalker): void {
  const { entries } = walk;
  // Enumeration is the fastest way to read an object (and this the only `hasOwn` that engines see through in it). It
  // serves as long as the keys come in schema order.
  let i = 0;
  let isReading = true;
  try {
    for (const key in values) {
      if (key !== keys[i] || !Object.prototype.hasOwnProperty.call(values, key)) break;
      const { length } = entries;
      const child = parts[i]!;
      const raw = values[key];
      isReading = false;
      data[key] = isPlain(child) && !walk.isJson ? walkField(child, raw, walk) : walk.instead(child, raw);
      isReading = true;
      if (entries.length !== length) walk.prefix(length, stepOf(key));
      i += 1;
    }
  } catch (error) {
    // A schema that is too deep: walked twice at each level, it would take for ever.
    if (!isReading) throw error;
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
