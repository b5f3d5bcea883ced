// Takes a value apart into the values of its parts, and puts them together again for callbacks. Groups are taken apart here,
// since only clauses need it; every other kind does it itself.

import { isGroup } from './group.ts';
import type { Part, Piece, SeenPiece } from './part.ts';
import { jsonTypeOf, ownRaw } from './safeAccess.ts';
import { makeView } from './view.ts';

/** The parts of a value; undefined if the value is of another type, or has no parts. */
export function piecesOf(part: Part, raw: unknown): readonly Piece[] | undefined {
  if (!isGroup(part)) return part.pieces?.(raw);
  const type = jsonTypeOf(raw);
  if (type !== 'none' && type !== 'object') return undefined;
  const values = raw ?? {};
  const keys = part.isPartial ? part.keys.filter((key) => Object.hasOwn(values, key)) : part.keys;
  return keys.map((key) => ({ part: part.locate(key)!.part, raw: ownRaw(values, key), key, name: key }));
}

/** What callbacks see of a value of a part. */
export function seeAs(part: Part, pieces: readonly SeenPiece[]): unknown {
  if (!isGroup(part)) return part.see?.(pieces);
  const byKey = new Map(pieces.map((piece) => [piece.key, piece]));
  return makeView(part.keys, (key) => byKey.get(key)?.read());
}
