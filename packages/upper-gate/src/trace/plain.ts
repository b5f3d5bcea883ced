// Values of a form as a trace holds them: plain JSON, whatever they are.

import type { BaseNode } from '../gate/node.ts';
import { isFile } from '../schema/files.ts';
import { isPlain } from '../schema/json.ts';
import { privateAround } from './secrets.ts';

/** How deep values are followed. */
const DEEPEST = 50;

/** A value as JSON has it. What JSON cannot hold is written as a text. Never throws. */
export function plain(value: unknown, depth = 0): unknown {
  try {
    if (value === null || value === undefined || typeof value === 'string' || typeof value === 'boolean') return value;
    if (typeof value === 'number') return Number.isFinite(value) ? value : String(value);
    if (depth < DEEPEST && Array.isArray(value)) return value.map((each) => plain(each, depth + 1) ?? null);
    if (isFile(value)) return { name: value.name, size: value.size, type: value.type };
    if (depth < DEEPEST && isPlain(value))
      return Object.fromEntries(
        Object.entries(value).flatMap(([key, each]) => (each === undefined ? [] : [[key, plain(each, depth + 1)]])),
      );
    // (Of other classes nothing is known: a text of theirs may hold anything.)
    if (value instanceof Date) return value.toISOString();
    return typeof value === 'bigint' || typeof value === 'symbol' ? String(value) : `(${typeof value})`;
  } catch {
    return '(unreadable)';
  }
}

/** What a node holds, without what is private in it. @param of what is taken of each field */
export function openValue(node: BaseNode, of: (field: BaseNode) => unknown = ({ raw }) => raw): unknown {
  if (privateAround(node)) return undefined;
  const value = (at: BaseNode): unknown => (at.part.settings.private ? undefined : at.part.traits.hasParts ? at.fold(value) : of(at));
  return plain(value(node));
}
