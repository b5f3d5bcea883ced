// The rows of a list.

import { afterRenderEffect, computed, type Signal } from '@angular/core';
import type { AnyGate, Gate, Handle, List, ListHandle, Node, Row } from 'upper-gate';
import { type ItemAt, type ItemIn, type ListFacts, type ListPathOf, viewList } from 'upper-gate/binding';
import type { ElementBundle } from './bundle.ts';
import { injectView, type Reading } from './following.ts';

/** The rows of a list, and functions that change them. */
export interface GateList<I extends Node = Node> extends Pick<ListHandle<I>, 'add' | 'remove' | 'move'> {
  /** The rows. Track them by `key`, which stays the same as long as the row exists. */
  readonly rows: Signal<readonly Row<I>[]>;
  readonly label: Signal<string>;
  /** The findings of the list as a whole, such as too few rows. */
  readonly shown: Signal<ListFacts['shown']>;
  /** For the element that holds these messages, one for each of `shown`. */
  readonly messages: Signal<ElementBundle>;
  /** For the button that adds a row, which takes the focus when the list is refused. */
  readonly button: Signal<ElementBundle>;
  /** The hint beside its label. */
  readonly hintText: Signal<string | undefined>;
  /** For the element with the hint, which describes the button. */
  readonly hint: Signal<ElementBundle>;
}

/**
 * Connects a component to a list. It is checked when rows come, go or move, and when the messages of the list itself change; not for
 * changes within the rows.
 *
 * @param gate the gate of the form, or a signal of it
 * @param list its path, or its handle: in a row, `row.field('jobs')`; also a signal of one
 * @returns the rows, what edits them, and the bundles of their elements
 *
 * @example
 * readonly crew = injectGateList(this.booking.gate, 'crew');
 * // In a loop over crew.rows(), tracked by row.key: <crew-member [row]="row" (remove)="crew.remove($index)" />
 */
export function injectGateList<N extends Node, P extends string>(gate: Reading<Gate<N>>, list: ListPathOf<N, P>): GateList<ItemAt<N, P>>;
export function injectGateList<L extends List<Node>>(gate: Reading<AnyGate>, list: Reading<Handle<L>>): GateList<ItemIn<L>>;
export function injectGateList(gate: Reading<AnyGate>, given: Reading<string | Handle>): GateList {
  const read = injectView(gate, given, viewList);
  afterRenderEffect(() => read().describe());
  return {
    rows: computed(() => read().now.rows),
    label: computed(() => read().now.label),
    shown: computed(() => read().now.shown),
    messages: computed(() => ({ attributes: { id: read().ids.messages, 'data-gate-messages': read().now.path } })),
    button: computed(() => ({ attributes: { type: 'button', 'aria-describedby': read().described }, attach: read().attach })),
    hintText: computed(() => read().now.hint),
    hint: computed(() => ({ attributes: { id: read().ids.hint } })),
    add: (value, at) => read().add(value, at),
    remove: (index) => read().remove(index),
    move: (from, to) => read().move(from, to),
  };
}
