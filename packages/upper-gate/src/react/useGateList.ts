// The rows of a list.

import { useEffect, useMemo, type ReactNode, type RefCallback } from 'react';
import { viewList } from '../binding/index.ts';
import type { AnyGate, Gate, ItemAt, ItemIn, ListPathOf } from '../gate/gate.ts';
import type { FieldState } from '../gate/fieldState.ts';
import type { Handle, ListHandle, Row } from '../gate/handle.ts';
import type { List } from '../schema/list/list.ts';
import type { Node } from '../schema/node.ts';
import { messageElements } from './useGateField.ts';
import { refOf } from './refOf.ts';
import { useView } from './useView.ts';

/** The rows of a list, and functions that change them. */
export interface GateList<I extends Node = Node> extends Pick<ListHandle<I>, 'add' | 'remove' | 'move'> {
  /** The rows. Use the `key` of each as its key: it stays the same as long as the row exists. */
  readonly rows: readonly Row<I>[];
  readonly label: string;
  /** The findings of the list as a whole, such as too few rows. */
  readonly shown: FieldState['shown'];
  /** Attributes for the element that holds these messages. */
  readonly messages: { readonly id: string; readonly 'data-gate-messages': string; readonly children: ReactNode };
  /** Attributes for the button that adds a row, which takes the focus when the list is refused. */
  readonly button: { readonly type: 'button'; readonly ref: RefCallback<HTMLElement>; readonly 'aria-describedby': string | undefined };
  /** Attributes for the element with the hint of the list, which describes the button. */
  readonly hint: { readonly id: string; readonly children: string | undefined };
}

/**
 * Connects a component to a list. The component renders again when rows come, go or move, and when the messages of the list
 * itself change; not for changes within the rows.
 *
 * @param gate the gate of the form
 * @param list its path, or its handle: in a row, `row.field('jobs')`
 * @returns the rows, what edits them, and the attributes of their elements
 *
 * @example
 * const { rows, add, remove } = useGateList(gate, 'crew');
 * return rows.map((row, i) => <CrewMember key={row.key} row={row} onRemove={() => remove(i)} />);
 */
export function useGateList<N extends Node, P extends string>(gate: Gate<N>, list: ListPathOf<N, P>): GateList<ItemAt<N, P>>;
export function useGateList<L extends List<Node>>(gate: AnyGate, list: Handle<L>): GateList<ItemIn<L>>;
export function useGateList(gate: AnyGate, list: string | Handle): GateList {
  const view = useMemo(() => viewList(gate, list), [gate, list]);
  const { label, hint, shown, rows, path } = useView(view);
  useEffect(() => view.describe());
  const { ids, described, attach, add, remove, move } = view;
  return {
    rows,
    label,
    shown,
    hint: { id: ids.hint, children: hint },
    messages: { id: ids.messages, 'data-gate-messages': path, children: messageElements(shown) },
    button: { type: 'button', ref: refOf(attach), 'aria-describedby': described },
    add,
    remove,
    move,
  };
}
