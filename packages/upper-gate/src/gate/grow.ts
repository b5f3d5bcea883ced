// Makes the cells of a form from its schema.

import { FieldPart } from '../schema/field.ts';
import { GroupPart } from '../schema/group.ts';
import { ownValue } from './values.ts';
import type { Part } from '../schema/node.ts';
import type { AnyRule } from '../schema/rule.ts';
import { Asking } from './asking.ts';
import { FieldCell, GroupCell, type Cell } from './cell.ts';
import type { Engine } from './engine.ts';
import { Condition, CrossWatch } from './watches.ts';

// The findings of a field: first those of its own rules, then those of its group's, then those of rules on the whole.
const ACROSS = 1000;
const WHOLE = 2000;

/** Makes a cell and all below it. Nothing is judged yet. */
export function grow(engine: Engine, parent: GroupCell | undefined, key: string, part: Part, initial: unknown): Cell {
  if (part instanceof GroupPart) return growGroup(engine, parent, key, part, initial);
  if (!(part instanceof FieldPart)) throw new TypeError(`A form cannot hold ${part.kind} yet.`);
  const cell = new FieldCell(engine, parent, key, part, initial);
  part.async.forEach((rule) => attach(cell, parent!, rule, part.ruleList.indexOf(rule)));
  return cell;
}

function growGroup(engine: Engine, parent: GroupCell | undefined, key: string, part: GroupPart, initial: unknown): GroupCell {
  const cell = new GroupCell(engine, parent, key, part);
  part.keys.forEach((name, i) => cell.kids.push(grow(engine, cell, name, part.parts[i]!, ownValue(initial, name))));
  const { only, cross, whole } = part.steps;
  for (const [name, predicate] of only) {
    const kid = cell.kid(name)!;
    kid.condition = new Condition(kid, cell, predicate);
    engine.schedule(kid.condition);
  }
  cross.forEach(({ index, rule }, i) => attach(cell.kids[index]!, cell, rule, ACROSS + i));
  whole.forEach((rule, i) => attach(cell, cell, rule, WHOLE + i));
  return cell;
}

/** Sets a rule that reads siblings, or asks, on a cell. */
function attach(target: Cell, group: GroupCell, rule: AnyRule, order: number): void {
  if (rule.ask) (target.askings ??= []).push(new Asking(target, group, rule, order));
  else (target.cross ??= []).push(new CrossWatch(target, group, rule, order));
}
