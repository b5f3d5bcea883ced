// Rows within rows: a lock has side locks, which have side locks.

import { DEV, explain } from '#development';
import { assertUse, wrongUse } from './assertUse.ts';
import { targetIn, walkTarget } from './deferred.ts';
import type { Field } from './field.ts';
import type { LiveNode } from './kit.ts';
import type { List } from './list/list.ts';
import type { CHILDREN, DATA, Node, RAW } from './node.ts';
import { nodeOf, Part, partOf, type Location, type Piece, type SeenPiece } from './part.ts';
import { piecesOf, seeAs } from './pieces.ts';
import type { Traits } from './traits.ts';

/** What controls hold for data. */
type RawIn<D> = D extends number
  ? number | string
  : D extends readonly (infer I)[]
    ? RawIn<I>[]
    : D extends Date
      ? string
      : D extends object
        ? { [P in keyof D]: RawIn<D[P]> }
        : D;

/** The part that holds data: typed by the data alone. */
type NodeIn<D> =
  NonNullable<D> extends readonly (infer I)[]
    ? List<NodeIn<I>>
    : NonNullable<D> extends Date
      ? Field<D, string>
      : NonNullable<D> extends object
        ? Recursive<D>
        : Field<D, RawIn<D>>;

/** A part that stands for a part around it. */
export interface Recursive<D> extends Node<D, RawIn<D>, { readonly [P in keyof NonNullable<D>]: NodeIn<NonNullable<D>[P]> }> {
  readonly [DATA]: D;
  readonly [RAW]: RawIn<D>;
  readonly [CHILDREN]: { readonly [P in keyof NonNullable<D>]: NodeIn<NonNullable<D>[P]> };
}

const TRAITS: Traits = { holds: 'itself', hasParts: true, json: 'any' };

class RecursivePart extends Part {
  readonly kind = 'deferred';
  readonly traits = TRAITS;
  /** A row or an entry is there. */
  readonly always = true;
  readonly #make: () => Node;
  #target: Part | undefined;

  constructor(make: () => Node) {
    super({ label: 'Entry' }, [], (raw, walker) => walkTarget(this, this.target, raw, walker));
    this.#make = make;
  }

  /** What it stands for: made when it is first needed, since it is not there before. */
  get target(): Part {
    return (this.#target ??= partOf(this.#make()));
  }

  override inner(): readonly Part[] {
    return [this.target];
  }

  override row(): Part {
    return this.target;
  }

  override rowIn(around: LiveNode<Part>): Part {
    return targetIn(around, this);
  }

  override pieces(raw: unknown): readonly Piece[] | undefined {
    return piecesOf(this.target, raw);
  }

  override see(pieces: readonly SeenPiece[]): unknown {
    return seeAs(this.target, pieces);
  }

  override locate(key: string, value?: unknown): Location | undefined {
    return this.target.locate?.(key, value);
  }

  isEmpty(data: unknown): boolean {
    return this.target.isEmpty(data);
  }

  override createNode(): never {
    throw wrongUse(
      DEV &&
        explain(
          'endless-form',
          'recursive() stands in a group here, so that the form would never end. Put it into a list: list("Side locks", recursive((): Node<Lock> => lock)).',
        ),
    );
  }
}

/**
 * Stands for a part of the schema around it, for rows within rows, at most 100 levels deep: what lies deeper is one wrong value,
 * without fields of its own. In a form it is the item of a list or dictionary. TypeScript needs the type of the data written down once.
 *
 * @param make gives the part; called when it is first needed
 * @returns the part, for a list or a dictionary
 * @throws TypeError, in a form, where it is not the item of a list
 *
 * @example
 * interface Lock { name: string; sides: Lock[] }
 * const lock = group({
 *   name: text('Name', required()),
 *   sides: list('Side locks', recursive((): Node<Lock> => lock)),
 * });
 */
export function recursive<D>(make: () => Node<D>): Recursive<D> {
  assertUse(typeof make === 'function', DEV && 'recursive() takes a function: recursive((): Node<Lock> => lock).');
  return nodeOf(new RecursivePart(make));
}
