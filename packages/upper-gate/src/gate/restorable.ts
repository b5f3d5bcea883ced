// What of raw values from outside a form takes back as edits: of a stored draft, of a form that was posted without script.

import { isField, type FieldPart } from '../schema/field.ts';
import type { Part } from '../schema/part.ts';
import type { Holding } from '../schema/traits.ts';
import { isObjectLike } from '../schema/safeAccess.ts';

const FILES: readonly Holding[] = ['file', 'files'];

/** How deep values are taken back: deeper ones are taken for an attack on the stack. */
const DEEPEST = 1000;

/**
 * Returns what may be restored of a part's raw value: nothing private, no files, and nothing that the part cannot hold.
 *
 * @param take what a field takes of a value that was kept; undefined for nothing
 */
export function restorable(part: Part | undefined, raw: unknown, take: (field: FieldPart, raw: unknown) => unknown, depth = 0): unknown {
  if (depth > DEEPEST || part === undefined || part.settings.private || raw === undefined || FILES.includes(part.traits.holds))
    return undefined;
  // A part within itself is kept as a whole.
  if (part.row) return isObjectLike(raw) ? restorable(part.row(), raw, take, depth) : undefined;
  if (isField(part)) return take(part, raw);
  if (Array.isArray(raw))
    return part.traits.holds === 'rows' ? raw.map((row, i) => restorable(part.locate?.(String(i))?.part, row, take, depth + 1)) : undefined;
  if (!isObjectLike(raw) || part.traits.holds === 'rows') return undefined;
  const fields = Object.keys(raw).map((key) => [key, restorable(part.locate?.(key, raw)?.part, raw[key], take, depth + 1)] as const);
  return Object.fromEntries(fields.filter(([, value]) => value !== undefined));
}
