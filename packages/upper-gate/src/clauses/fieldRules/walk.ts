// How the rules of a group on its fields run on a whole value.

import { sortByPath } from '../../evaluate/order.ts';
import { readable } from '../../evaluate/readable.ts';
import { walkRule } from '../../evaluate/walkRule.ts';
import { childPath } from '../../schema/finding.ts';
import { isGroup, type GroupPart } from '../../schema/group.ts';
import type { Part, Way } from '../../schema/part.ts';
import { piecesOf } from '../../schema/pieces.ts';
import type { Scopes } from '../../schema/kit.ts';
import { NO_VALUE } from '../../schema/noValue.ts';
import { makeView } from '../../schema/view.ts';
import type { Walker, WalkView } from '../../schema/walker.ts';
import { conditionalGroupIn } from '../conditionalGroupIn.ts';

type Data = Readonly<Record<string, unknown>>;

/** What conditions of groups further in see of a value; nothing if no group further in has conditions. */
export const viewOfConditions = (part: Part, raw: unknown, walker: Walker): WalkView | undefined =>
  conditionalGroupIn(part)?.clauses.conditions!.viewOf(part, raw, walker);

/** Runs the rules of a group on its fields. */
export function walkFieldRules(part: GroupPart, data: object, walker: Walker): void {
  const { view, entries } = walker;
  const siblings = readable(walker, data);
  const scopes: Scopes = [siblings, siblings];
  const before = entries.length;
  for (const { way, what } of part.clauses.fieldRules!.list)
    reach(part, data, view, way, '', (target, value, path, beside, keys) => {
      const from = entries.length;
      (what.walk ?? walkRule)(
        what,
        target,
        value,
        walker,
        beside === data ? scopes : [siblings, besideOf(keys, readable(walker, beside, view?.depth ?? 0))],
      );
      walker.prefix(from, path);
    });
  if (entries.length > before) walker.sort ??= sortByPath;
}

/** The fields of a group alone: those of a case stand beside the choice. */
const besideOf = (keys: readonly string[], data: unknown): unknown =>
  Object.keys(data as Data).length === keys.length ? data : makeView(keys, (key) => (data as Data)[key]);

/**
 * Visits what a way leads to: a field, or one in each row of a list on the way. What does not apply is not there.
 *
 * @param visit is given the part, its data, its path, and the data of the group that it is in, with its keys
 */
function reach(
  part: Part,
  data: unknown,
  view: WalkView | undefined,
  way: Way,
  path: string,
  visit: (part: Part, data: unknown, path: string, beside: object, keys: readonly string[]) => void,
): void {
  if (data === NO_VALUE || data === undefined) return;
  const [key, ...rest] = way as readonly [string, ...string[]];
  if (isGroup(part)) {
    const field = view?.child(key);
    if (field && !field.applies) return;
    const inner = part.locate(key)!.part;
    const value = (data as Data)[key];
    const at = childPath(path, key);
    if (rest.length === 0) visit(inner, value, at, data as Data, part.keys);
    else reach(inner, value, field, rest, at, visit);
    return;
  }
  for (const piece of piecesOf(part, data) ?? []) {
    const inner = view?.child(String(piece.key));
    if (piece.name === undefined) reach(piece.part, piece.raw, inner, way, childPath(path, piece.key), visit);
    else if (piece.name === key) reach(piece.part, piece.raw, inner, rest, path, visit);
  }
}
