// Fields that apply only while a condition holds.

import { DEV } from '#development';
import { assertUse } from '../../schema/assertUse.ts';
import type { Dictionary } from '../../schema/dictionary/dictionary.ts';
import type { Clause, EntryOf, Fields, Group, Predicate, Under } from '../../schema/group.ts';
import type { Placed } from '../../schema/part.ts';
import type { List } from '../../schema/list/list.ts';
import type { CHILDREN, DATA, Node } from '../../schema/node.ts';
import { flatten } from '../flatten.ts';
import { addClauses, makeClause } from '../makeClause.ts';
import { reachOf } from '../reach.ts';
import { attachConditions } from './live.ts';
import { viewOf } from './view.ts';

/** Conditions on fields, keyed like the data: the key of a list, or dictionary, stands for each of its rows, or entries, a variant's for an object of its cases. */
type ConditionsOn<F extends Fields, B, L> = {
  readonly [P in keyof F]?:
    ((siblings: B, beside: L) => boolean | undefined) | ConditionsBelow<F[P], B, P extends keyof L ? NonNullable<L[P]> : never>;
};
type ConditionsBelow<N extends Node, B, D> =
  N extends List<infer I>
    ? ConditionsBelow<I, B, EntryOf<D>>
    : N extends Dictionary<infer I>
      ? ConditionsBelow<I, B, EntryOf<D>>
      : N extends { readonly key: infer Key extends string; readonly cases: infer A extends Fields }
        ? { readonly [V in keyof A]?: ConditionsBelow<A[V], B, Omit<Extract<D, { readonly [X in Key]: V }>, Key>> }
        : [keyof N[typeof CHILDREN]] extends [never]
          ? never
          : N[typeof CHILDREN] extends infer K extends Fields
            ? ConditionsOn<K, B, D>
            : never;

/** Refuses, with a sentence, what names no field of a group. */
type Known<W, F> = {
  [P in keyof W]: P extends keyof F ? (W[P] extends (...args: never[]) => unknown ? unknown : KnownBelow<W[P], F[P]>) : NoField<P>;
};
type KnownBelow<W, N> =
  N extends List<infer I>
    ? KnownBelow<W, I>
    : N extends Dictionary<infer I>
      ? KnownBelow<W, I>
      : N extends { readonly cases: infer A }
        ? { [V in keyof W]: V extends keyof A ? KnownBelow<W[V], A[V]> : NoField<V> }
        : N extends Node<unknown, unknown, infer K>
          ? Known<W, K>
          : never;
type NoField<P> = `There is no field "${P & string}" here.`;

/** The conditions of a clause, as the data type of a group takes them. */
type ConditionsIn<W> = W extends (...args: never[]) => unknown ? true : { [P in keyof W]: ConditionsIn<W[P]> };

/**
 * Makes fields apply only while a condition holds: a clause for `.with()`. The condition reads the siblings; for a field further
 * in, it reads the data of this group and then the fields beside that field. A field that doesn't apply is neither validated nor
 * sent, and this group reads it as `undefined`; rules further in that read it wait. A condition that reads a field without a
 * value does not hold.
 *
 * @param when the conditions, by the name of the field
 * @returns the clause
 * @throws TypeError, when it is added, for a field that the group does not have, and for what is no function
 *
 * @example
 * .with(appliesWhen({ tug: (boat) => boat.beam > 4 }))
 * .with(appliesWhen({ crew: { permit: (boat, member) => boat.dangerous && member.role === 'skipper' } }))
 */
export function appliesWhen<F extends Fields, C, W>(
  when: W &
    Known<W, NoInfer<F>> &
    ConditionsOn<
      NoInfer<F>,
      { [X in keyof NoInfer<F>]: X extends keyof NoInfer<C> ? Under<F[X], F[X][typeof DATA], NoInfer<C>[X]> : F[X][typeof DATA] },
      { [X in keyof NoInfer<F>]: X extends keyof NoInfer<C> ? Under<F[X], F[X][typeof DATA], NoInfer<C>[X]> : F[X][typeof DATA] }
    >,
): Clause<F, C, Group<F, C & ConditionsIn<W>>> {
  return makeClause((group) => {
    const added = flatten(group, when as object, 'appliesWhen', (at, given) => {
      assertUse(
        given.every((each): each is Predicate => typeof each === 'function'),
        DEV && `What appliesWhen() got for "${at}" is no condition. Give a function: (siblings) => siblings.callBack.`,
      );
      return given;
    });
    const list: readonly Placed<Predicate>[] = [...(group.clauses.conditions?.list ?? []), ...added];
    return addClauses(group, { conditions: { list, reach: reachOf(list, attachConditions), viewOf } });
  });
}
