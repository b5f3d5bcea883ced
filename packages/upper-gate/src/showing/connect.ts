// What only a page needs of a field: where it is, how it takes the focus, whether its control is disabled, what the markup
// gives it to begin with.

import type { FieldNode } from '../gate/fieldNode.ts';
import { internalsOfHandle, type Handle } from '../gate/handle.ts';
import type { Connection } from '../gate/connection.ts';
import { setApplies } from '../schema/applying.ts';
import { isField } from '../schema/field.ts';
import { focusFirstError, focusNode, followRefusal, type OpeningConnection } from './focusOrder.ts';
import { OPENING } from './opening.ts';

/**
 * Connects a field to where it is on a page: how it takes the focus, and where it stands in the document.
 *
 * @param handle the handle of a field or group; `gate.root` for what the form as a whole is described by
 * @param connection the element, and functions that focus and open it
 * @returns undoes it
 *
 * @example
 * const undo = connect(gate.field('berth'), { element: place, focus: () => place.focus() });
 */
export const connect = (handle: Handle, connection: Connection): (() => void) =>
  tie(handle, connection.show ? opens(connection) : connection);

/** A connection with what it takes to open things. (Not a copy: it may be an instance of a class, or have getters.) */
const opens = (connection: Connection): OpeningConnection => ({
  get element() {
    return connection.element;
  },
  get focus() {
    return connection.focus!;
  },
  show: () => connection.show!(),
  opening: OPENING,
});

/** The same for a connection that shows nothing. */
export function tie(handle: Handle, connection: Connection | OpeningConnection): () => void {
  const { node, store } = internalsOfHandle(handle);
  store.page = { focusNode, focusFirstError, followRefusal };
  const connections = (node.connections ??= new Set());
  connections.add(connection);
  return () => connections.delete(connection);
}

/**
 * Disables a field, as in HTML: it is neither validated nor sent.
 *
 * @param handle the handle of a field or group
 * @param disabled whether it is disabled
 *
 * @example
 * setDisabled(gate.field('berth'), true);
 */
export function setDisabled(handle: Handle, disabled: boolean): void {
  const { node, store } = internalsOfHandle(handle);
  store.change(() => setApplies(node, node.conditionHolds, disabled));
}

/** Gives a field the value of the page's markup: it counts if nothing else was given, and is no edit. A reset leads back to it. */
export function offerMarkup(handle: Handle, value: unknown): void {
  const { node, store } = internalsOfHandle(handle);
  if (!isField(node.part)) return;
  const field = node as FieldNode;
  store.change(() => {
    if (field.isGiven || field.dirty > 0 || field.removed) return;
    // A reset leads back to it, not to what the part holds otherwise.
    field.isGiven = field.part.settings.default !== undefined;
    field.initial = field.write(value);
    field.setSaved(field.initial);
    if (field.same(field.raw, field.initial)) field.readRaw();
    else field.replace(field.initial);
  });
}

/** Whether other fields, or facts from outside, say which options a field has. */
export const hasMovingOptions = (handle: Handle): boolean =>
  internalsOfHandle(handle).node.liveRules?.some(({ rule }) => rule.givesOptions) ?? false;
