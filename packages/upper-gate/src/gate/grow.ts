// Makes the cells of a form from its schema.

import { FieldPart } from '../schema/field.ts';
import { GroupPart } from '../schema/group.ts';
import { ListPart } from '../schema/list.ts';
import type { Part } from '../schema/node.ts';
import type { AnyRule } from '../schema/rule.ts';
import type { VariantPart } from '../schema/variant.ts';
import { Asking } from './asking.ts';
import { FieldCell, GroupCell, ListCell, VariantCell, type Cell } from './cell.ts';
import { DistinctWatch } from './distinct.ts';
import type { Engine } from './engine.ts';
import { read } from './tracking.ts';
import { ownValue } from './values.ts';
import { Condition, CrossWatch } from './watches.ts';

// The findings of a field: first those of its own rules, then those of its group's, then those of rules on the whole.
const ACROSS = 1000;
const WHOLE = 2000;

/** Makes a cell and all below it. Nothing is judged yet. */
export function grow(engine: Engine, parent: Cell | undefined, key: string, part: Part, initial: unknown): Cell {
  if (part instanceof FieldPart) {
    const cell = new FieldCell(engine, parent, key, part, initial);
    part.ruleList.forEach((rule, order) => {
      if (rule.ask) attach(cell, groupAround(parent!), rule, order);
    });
    return cell;
  }
  if (part instanceof GroupPart) return growGroup(engine, parent, key, part, initial);
  if (part instanceof ListPart) return growList(engine, parent, key, part, initial);
  return growVariant(engine, parent, key, part as VariantPart, initial);
}

function growGroup(engine: Engine, parent: Cell | undefined, key: string, part: GroupPart, initial: unknown): GroupCell {
  const cell = new GroupCell(engine, parent, key, part);
  part.keys.forEach((name, i) => cell.kids.push(grow(engine, cell, name, part.parts[i]!, ownValue(initial, name))));
  const { only, cross, whole } = part.steps;
  for (const [name, conditions] of only) condition(cell.kid(name)!, () => conditions.every((holds) => holds(cell.look())));
  cross.forEach(({ index, rule }, i) => attach(cell.kids[index]!, cell, rule, ACROSS + i));
  whole.forEach((rule, i) => attach(cell, cell, rule, WHOLE + i));
  return cell;
}

function growList(engine: Engine, parent: Cell | undefined, key: string, part: ListPart, initial: unknown): ListCell {
  const cell = new ListCell(engine, parent, key, part, initial, (list, value) =>
    grow(engine, list, String(list.kids.length), part.part.row, value),
  );
  part.ruleList.forEach((rule, order) => attach(cell, cell, rule, order));
  cell.arrange(cell.initial.map(cell.growRow), 0);
  return cell;
}

function growVariant(engine: Engine, parent: Cell | undefined, key: string, part: VariantPart, initial: unknown): VariantCell {
  const cell = new VariantCell(engine, parent, key, part);
  cell.kids.push(grow(engine, cell, part.key, part.chooser, ownValue(initial, part.key)));
  for (const [value, group] of Object.entries(part.cases)) {
    const kid = growGroup(engine, cell, '', group, initial);
    cell.kids.push(kid);
    condition(kid, () => {
      read(cell.chooser);
      return cell.chooser.data === value;
    });
  }
  return cell;
}

function condition(cell: Cell, holds: () => unknown): void {
  cell.condition = new Condition(cell, holds);
  cell.engine.schedule(cell.condition);
}

/** Sets a rule that reads others, or asks, on a cell. */
function attach(target: Cell, around: Cell, rule: AnyRule, order: number): void {
  if (rule.ask) (target.askings ??= []).push(new Asking(target, around, rule, order));
  else if (rule.distinct) (target.cross ??= []).push(new DistinctWatch(target as ListCell, rule, order));
  else (target.cross ??= []).push(new CrossWatch(target, around, rule, order));
}

/** The nearest group at or around a cell: its fields are the siblings of what lies in it. */
const groupAround = (cell: Cell): Cell => (cell instanceof GroupCell || !cell.parent ? cell : groupAround(cell.parent));
