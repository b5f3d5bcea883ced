// Makes the cells of a form from its schema.

import { FieldPart } from '../schema/field.ts';
import { GroupPart } from '../schema/group.ts';
import { ListPart } from '../schema/list.ts';
import type { Part } from '../schema/node.ts';
import type { AnyRule } from '../schema/rule.ts';
import type { VariantPart } from '../schema/variant.ts';
import { AsyncRuleRunner } from './asyncRuleRunner.ts';
import { FieldCell, GroupCell, ListCell, VariantCell, type Cell } from './cell.ts';
import { DistinctRowsWatch } from './distinctRows.ts';
import type { FormStore } from './formStore.ts';
import { read } from './tracking.ts';
import { ownValue } from './values.ts';
import { AppliesCondition, CrossFieldWatch } from './crossField.ts';

// The findings of a field: first those of its own rules, then those of its group's, then those of rules on the whole.
const ACROSS = 1000;
const WHOLE = 2000;

/** Makes a cell and all below it. Nothing is judged yet. */
export function createNode(store: FormStore, parent: Cell | undefined, key: string, part: Part, initial: unknown): Cell {
  if (part instanceof FieldPart) {
    const cell = new FieldCell(store, parent, key, part, initial);
    part.ruleList.forEach((rule, order) => {
      if (rule.async) attach(cell, groupAround(parent!), rule, order);
    });
    return cell;
  }
  if (part instanceof GroupPart) return createGroup(store, parent, key, part, initial);
  if (part instanceof ListPart) return createList(store, parent, key, part, initial);
  return createVariant(store, parent, key, part as VariantPart, initial);
}

function createGroup(store: FormStore, parent: Cell | undefined, key: string, part: GroupPart, initial: unknown): GroupCell {
  const cell = new GroupCell(store, parent, key, part);
  part.keys.forEach((name, i) => cell.children.push(createNode(store, cell, name, part.parts[i]!, ownValue(initial, name))));
  const { conditions, crossRules, groupRules } = part.steps;
  for (const [name, predicates] of conditions) condition(cell.child(name)!, () => predicates.every((holds) => holds(cell.readForRule())));
  crossRules.forEach(({ index, rule }, i) => attach(cell.children[index]!, cell, rule, ACROSS + i));
  groupRules.forEach((rule, i) => attach(cell, cell, rule, WHOLE + i));
  return cell;
}

function createList(store: FormStore, parent: Cell | undefined, key: string, part: ListPart, initial: unknown): ListCell {
  const cell = new ListCell(store, parent, key, part, initial, (list, value) =>
    createNode(store, list, String(list.children.length), part.part.row, value),
  );
  part.ruleList.forEach((rule, order) => attach(cell, cell, rule, order));
  cell.arrange(cell.initial.map(cell.createRow), 0);
  return cell;
}

function createVariant(store: FormStore, parent: Cell | undefined, key: string, part: VariantPart, initial: unknown): VariantCell {
  const cell = new VariantCell(store, parent, key, part);
  cell.children.push(createNode(store, cell, part.key, part.chooser, ownValue(initial, part.key)));
  for (const [value, group] of Object.entries(part.cases)) {
    const child = createGroup(store, cell, '', group, initial);
    cell.children.push(child);
    condition(child, () => {
      read(cell.chooser);
      return cell.chooser.data === value;
    });
  }
  return cell;
}

function condition(cell: Cell, holds: () => unknown): void {
  cell.condition = new AppliesCondition(cell, holds);
  cell.store.schedule(cell.condition);
}

/** Sets a rule that reads others, or asks, on a cell. */
function attach(target: Cell, scope: Cell, rule: AnyRule, order: number): void {
  if (rule.async) (target.asyncRunners ??= []).push(new AsyncRuleRunner(target, scope, rule, order));
  else if (rule.distinct) (target.crossRules ??= []).push(new DistinctRowsWatch(target as ListCell, rule, order));
  else (target.crossRules ??= []).push(new CrossFieldWatch(target, scope, rule, order));
}

/** The nearest group at or around a cell: its fields are the siblings of what lies in it. */
const groupAround = (cell: Cell): Cell => (cell instanceof GroupCell || !cell.parent ? cell : groupAround(cell.parent));
