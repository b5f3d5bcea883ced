// The rows of a list.

import { computed, watch, type MaybeRefOrGetter } from 'vue';
import { attach, describedBy, describeField, followRows, idsOf } from '../binding/index.ts';
import type { AnyGate, Gate, ItemAt, ItemIn, ListPathOf } from '../gate/gate.ts';
import type { FieldState } from '../gate/fieldState.ts';
import type { Handle, ListHandle, Row } from '../gate/handle.ts';
import type { List } from '../schema/list/list.ts';
import type { Node } from '../schema/node.ts';
import { type Ref, tieRef } from './element.ts';
import { followHandle } from './followHandle.ts';
import { slice } from './slice.ts';

/** The rows of a list, and functions that change them. A reactive object: don't destructure it. */
export interface GateList<I extends Node = Node> extends Pick<ListHandle<I>, 'add' | 'remove' | 'move'> {
  /** The rows. Use the `key` of each as its key: it stays the same as long as the row exists. */
  readonly rows: readonly Row<I>[];
  readonly label: string;
  /** The findings of the list as a whole, such as too few rows. */
  readonly shown: FieldState['shown'];
  /** Attributes for the element that holds these messages, one for each of `shown`. */
  readonly messages: { readonly id: string; readonly 'data-gate-messages': string };
  /** Attributes for the button that adds a row, which takes the focus when the list is refused. */
  readonly button: { readonly type: 'button'; readonly ref: Ref; readonly 'aria-describedby': string | undefined };
  /** The hint beside its label. */
  readonly hintText: string | undefined;
  /** Attributes for the element with the hint, which describes the button. */
  readonly hint: { readonly id: string };
}

/**
 * Connects a component to a list. The component updates when rows come, go or move, and when the messages of the list itself
 * change; not for changes within the rows.
 *
 * @param gate the gate of the form
 * @param list its path, or its handle: in a row, `row.field('jobs')`; also a ref or getter of one
 * @returns the rows, what edits them, and the attributes of their elements
 *
 * @example
 * const crew = useGateList(gate, 'crew');
 * // <CrewMember v-for="(row, i) in crew.rows" :key="row.key" :row="row" @remove="crew.remove(i)" />
 */
export function useGateList<N extends Node, P extends string>(gate: Gate<N>, list: ListPathOf<N, P>): GateList<ItemAt<N, P>>;
export function useGateList<L extends List<Node>>(gate: AnyGate, list: MaybeRefOrGetter<Handle<L>>): GateList<ItemIn<L>>;
export function useGateList(gate: AnyGate, given: MaybeRefOrGetter<string | Handle>): GateList {
  const handle = followHandle(gate, given);
  const list = computed(() => gate.list(handle.value));
  const path = slice(handle, (now) => now.path);
  const rows = slice(handle, () => list.value.rows);
  const shown = slice(handle, (now) => now.shown);
  const label = slice(handle, (now) => now.label);
  const hint = slice(handle, (now) => now.hint);
  const button = computed(() => {
    const of = handle.value;
    return { type: 'button', ref: tieRef((element) => attach(gate, of, element)) } as const;
  });
  const ids = computed(() => idsOf(gate, path.value));
  const described = computed(() => describedBy(gate, path.value, { hint: hint.value, counter: undefined, shown: shown.value }));
  followRows(gate);
  watch([described, handle], () => describeField(gate, handle.value), { flush: 'post' });
  return {
    get rows() {
      return rows.value;
    },
    get shown() {
      return shown.value;
    },
    get label() {
      return label.value;
    },
    get hintText() {
      return hint.value;
    },
    get hint() {
      return { id: ids.value.hint };
    },
    get messages() {
      return { id: ids.value.messages, 'data-gate-messages': path.value };
    },
    get button() {
      return { ...button.value, 'aria-describedby': described.value };
    },
    add: (value, at) => list.value.add(value, at),
    remove: (index) => list.value.remove(index),
    move: (from, to) => list.value.move(from, to),
  };
}
