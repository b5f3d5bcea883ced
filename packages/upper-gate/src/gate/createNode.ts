// Makes the cells of a form from its schema.

import { runConditions, type Applies } from '../evaluate/applies.ts';
import type { Order } from '../evaluate/order.ts';
import { isField } from '../schema/field.ts';
import { isGroup, type GroupPart } from '../schema/group.ts';
import type { ListPart } from '../schema/list/list.ts';
import type { Part } from '../schema/part.ts';
import type { AnyRule } from '../schema/rule.ts';
import type { VariantPart } from '../schema/variant/variant.ts';
import { AsyncRuleRunner } from './asyncRuleRunner.ts';
import { FieldCell, GroupCell, ListCell, VariantCell, type Cell, type Store } from './cell.ts';
import { AppliesCondition, CrossFieldWatch } from './crossField.ts';
import { DistinctRowsWatch } from './distinctRows.ts';
import { read } from './tracking.ts';
import { ownValue } from './values.ts';

/** Makes a cell and all below it. Nothing is validated yet. */
export function createNode(store: Store, parent: Cell | undefined, key: string, part: Part, initial: unknown): Cell {
  if (isField(part)) {
    const cell = new FieldCell(store, parent, key, part, initial);
    part.ruleList.forEach((rule, order) => {
      if (rule.async) attach(cell, groupAround(parent!), rule, { depth: cell.depth, index: order + 1 });
    });
    return cell;
  }
  if (isGroup(part)) return createGroup(store, parent, key, part, initial);
  if (part.kind === 'list') return createList(store, parent, key, part as ListPart, initial);
  return createVariant(store, parent, key, part as VariantPart, initial);
}

function createGroup(store: Store, parent: Cell | undefined, key: string, part: GroupPart, initial: unknown): GroupCell {
  const cell = new GroupCell(store, parent, key, part);
  part.keys.forEach((name, i) => cell.children.push(createNode(store, cell, name, part.parts[i]!, ownValue(initial, name))));
  for (const [name, predicates] of part.conditions) {
    const target = cell.child(name)!;
    condition(target, () => runConditions(predicates, cell.readForRule(), target));
  }
  part.stepRules.forEach(({ key: name, rule }, index) =>
    attach(name === undefined ? cell : cell.child(name)!, cell, rule, { depth: cell.depth, index }),
  );
  return cell;
}

function createList(store: Store, parent: Cell | undefined, key: string, part: ListPart, initial: unknown): ListCell {
  const cell = new ListCell(store, parent, key, part, initial, (list, value) =>
    createNode(store, list, String(list.children.length), part.part.row, value),
  );
  part.ruleList.forEach((rule, index) => attach(cell, cell, rule, { depth: cell.depth, index }));
  cell.arrange(cell.initial.map(cell.createRow), 0);
  return cell;
}

function createVariant(store: Store, parent: Cell | undefined, key: string, part: VariantPart, initial: unknown): VariantCell {
  const cell = new VariantCell(store, parent, key, part);
  cell.children.push(createNode(store, cell, part.key, part.chooser, ownValue(initial, part.key)));
  for (const [value, group] of Object.entries(part.cases)) {
    const child = createGroup(store, cell, '', group, initial);
    cell.children.push(child);
    condition(child, () => {
      read(cell.chooser);
      return { applies: cell.chooser.data === value, verdict: undefined };
    });
  }
  return cell;
}

function condition(cell: Cell, evaluate: () => Applies): void {
  cell.condition = new AppliesCondition(cell, evaluate);
  cell.store.schedule(cell.condition);
}

/** Adds a cross-field or async rule to a cell. */
function attach(target: Cell, scope: Cell, rule: AnyRule, order: Order): void {
  if (rule.async) (target.asyncRunners ??= []).push(new AsyncRuleRunner(target, scope, rule, order));
  else if (rule.distinct) (target.crossRules ??= []).push(new DistinctRowsWatch(target as ListCell, rule, order));
  else (target.crossRules ??= []).push(new CrossFieldWatch(target, scope, rule, order));
}

/** The nearest group at or around a cell: its fields are the siblings. */
const groupAround = (cell: Cell): Cell => (cell instanceof GroupCell || !cell.parent ? cell : groupAround(cell.parent));
