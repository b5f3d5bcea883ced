// Rules of a group on its fields, which may read the others.

import { DEV } from '#development';
import { attachRule } from '../../evaluate/attachRule.ts';
import { assertFits } from '../../schema/brand.ts';
import type { Clause, EntryOf, Fields, Group, GroupPart, OneOrMore, Under } from '../../schema/group.ts';
import type { Placed, Part } from '../../schema/part.ts';
import type { LiveNode } from '../../schema/kit.ts';
import type { Dictionary } from '../../schema/dictionary/dictionary.ts';
import type { List } from '../../schema/list/list.ts';
import type { CHILDREN, DATA, Node, VALUE } from '../../schema/node.ts';
import type { AnyRule, Mark, Rule } from '../../schema/rule.ts';
import { flatten, unknownField } from '../flatten.ts';
import { addClauses, makeClause } from '../makeClause.ts';
import { reachOf } from '../reach.ts';
import { viewOfConditions, walkFieldRules } from './walk.ts';

/** What rules on a field get: its data, or `unknown` where the type is not known. */
type RuleValue<N extends Node> = N extends { readonly [VALUE]: infer V } ? V : NonNullable<N[typeof DATA]>;

/** Rules on fields, keyed like the data: the key of a list, or dictionary, stands for each of its rows, or entries, a variant's for an object of its cases. */
type RulesIn<F extends Fields, B, L> = {
  readonly [P in keyof F]?:
    OneOrMore<Rule<RuleValue<F[P]>, B, Mark, L>> | RulesBelow<F[P], B, P extends keyof L ? NonNullable<L[P]> : never>;
};
type RulesBelow<N extends Node, B, D> =
  N extends List<infer I>
    ? RulesBelow<I, B, EntryOf<D>>
    : N extends Dictionary<infer I>
      ? RulesBelow<I, B, EntryOf<D>>
      : N extends { readonly key: infer Key extends string; readonly cases: infer C extends Fields }
        ? { readonly [V in keyof C]?: RulesBelow<C[V], B, Omit<Extract<D, { readonly [X in Key]: V }>, Key>> }
        : [keyof N[typeof CHILDREN]] extends [never]
          ? never
          : N[typeof CHILDREN] extends infer K extends Fields
            ? RulesIn<K, B, D>
            : never;

/** A rule on another field (`params.other`) learns that field's label here, for its message. */
function withOtherLabel(rule: AnyRule, group: GroupPart): AnyRule {
  const { other } = rule.params;
  if (typeof other !== 'string') return rule;
  const found = group.locate(other);
  if (!found) throw unknownField(rule.name, other, group.keys);
  return { ...rule, params: { ...rule.params, otherLabel: found.part.label } };
}

/** Attaches the rules of a group on a part to its node. */
function attachRules(
  items: readonly { readonly what: AnyRule; readonly index: number }[],
  node: LiveNode<Part>,
  scope: LiveNode<Part>,
): void {
  for (const { what, index } of items) attachRule(what, node, scope, { depth: scope.depth, index });
}

/**
 * Adds rules that read other fields, by the name of the field that gets the finding: a clause for `.with()`. For fields further
 * in, they are nested like the data. They run again when anything that they read changes.
 *
 * @param rules a rule, or several, by the name of the field
 * @returns the clause
 * @throws TypeError, when it is added, for a field that the group does not have, and for what is no rule
 *
 * @example
 * .with(fieldRules({ emailAgain: sameAs('email'), phone: requiredWhen((boat) => boat.callBack) }))
 * .with(fieldRules({ crew: { permit: requiredWhen((boat, member) => boat.dangerous && member.role === 'skipper') } }))
 */
export function fieldRules<F extends Fields, C>(
  rules: RulesIn<
    NoInfer<F>,
    { [X in keyof NoInfer<F>]: X extends keyof NoInfer<C> ? Under<F[X], F[X][typeof DATA], NoInfer<C>[X]> : F[X][typeof DATA] },
    { [X in keyof NoInfer<F>]: X extends keyof NoInfer<C> ? Under<F[X], F[X][typeof DATA], NoInfer<C>[X]> : F[X][typeof DATA] }
  >,
): Clause<F, C, Group<F, C>> {
  return makeClause((group) => {
    const added = flatten(group, rules, 'fieldRules', (at, given) => {
      for (const rule of given)
        assertFits(rule, DEV && `What fieldRules() got for "${at}" is not a rule. Give check(...), sameAs(...) or another rule.`);
      return (given as readonly AnyRule[]).map((rule) => withOtherLabel(rule, group));
    });
    const list: readonly Placed<AnyRule>[] = [...(group.clauses.fieldRules?.list ?? []), ...added];
    return addClauses(group, { fieldRules: { list, reach: reachOf(list, attachRules), walk: walkFieldRules, viewOf: viewOfConditions } });
  });
}
