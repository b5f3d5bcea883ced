// Whether a step of a form is filled in as it should be.

import { evaluateField } from '../evaluate/field.ts';
import { severityOf } from '../evaluate/finding.ts';
import type { AnyGate } from '../gate/gate.ts';
import type { FieldNode } from '../gate/fieldNode.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import type { FormStore } from '../gate/store.ts';
import { swapSource } from '../schema/context/running.ts';
import { isField } from '../schema/field.ts';
import { blocks } from '../schema/severity.ts';

/** Whether the rules of a field find nothing wrong, also those whose moment has not come. */
function passes(node: FieldNode): boolean {
  const { part, value, now, locale } = node;
  const found = evaluateField(part, value, { now, locale, isDue: undefined, fault: (error, rule) => node.fault(error, rule) });
  return !found.some(({ rule, verdict }) => blocks({ severity: severityOf(rule, verdict) }));
}

const isRight = (node: BaseNode): boolean =>
  !node.kit.lackingNodes?.isAt(node) &&
  (!node.ownApplies ||
    (node.errors === 0 &&
      node.pending === 0 &&
      (node.validated || !isField(node.part) || passes(node as FieldNode)) &&
      node.children.every((child) => isRight(child))));

function allRight(store: FormStore, paths: readonly string[]): boolean {
  const source = swapSource(store);
  try {
    return paths.every((path) => isRight(store.find(path)!));
  } finally {
    swapSource(source);
  }
}

/**
 * Returns whether a step of a wizard, or any fields, are complete: without an error. Shows nothing to the user. Rules that run
 * at a later event count, too; rules between fields and async rules count once they have run.
 *
 * @param gate the gate of the form
 * @param paths of fields, groups, lists
 * @returns true if no rule finds an error
 * @throws TypeError for a path that the form does not have
 *
 * @example
 * const isDone = isComplete(gate, ['vessel', 'crew']);
 */
export function isComplete(gate: AnyGate, paths: readonly string[]): boolean {
  // Each path is checked on the way.
  return allRight(
    internalsOf(gate).store,
    paths.map((path) => gate.field(path).path),
  );
}
