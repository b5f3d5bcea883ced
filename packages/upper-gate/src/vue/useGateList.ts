// The rows of a list.

import { computed, watch } from 'vue';
import { attach, describeField, idPrefixOf, idsOf, subscribePath } from '../binding/index.ts';
import type { AnyGate, Gate, ItemAt, ListPathOf } from '../gate/createGate.ts';
import type { FieldState } from '../gate/fieldState.ts';
import type { ListHandle, Row } from '../gate/handle.ts';
import type { Node } from '../schema/node.ts';
import { type Ref, tieRef } from './element.ts';
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
 * @param list the path of the list, or its handle
 * @returns the rows, what edits them, and the attributes of their elements
 *
 * @example
 * const crew = useGateList(gate, 'crew');
 * // <CrewMember v-for="(row, i) in crew.rows" :key="row.key" :row="row" @remove="crew.remove(i)" />
 */
export function useGateList<N extends Node, P extends string>(gate: Gate<N>, list: ListPathOf<N, P>): GateList<ItemAt<N, P>>;
export function useGateList(gate: AnyGate, path: string): GateList {
  const subscribe = (listener: () => void): (() => void) => subscribePath(gate, path, listener);
  const handle = slice(subscribe, () => gate.field(path));
  const rows = slice(subscribe, () => gate.list(path).rows);
  const shown = slice(subscribe, () => gate.field(path).shown);
  const label = slice(subscribe, () => gate.field(path).label);
  const button = computed(() => {
    const of = handle.value;
    return { type: 'button', ref: tieRef((element) => attach(gate, of, element)) } as const;
  });
  const hint = slice(subscribe, () => gate.field(path).hint);
  const ids = idsOf(idPrefixOf(gate), path);
  const describedBy = computed(() =>
    [hint.value !== undefined && ids.hint, shown.value.length > 0 && ids.messages].filter(Boolean).join(' '),
  );
  watch([describedBy, handle], () => describeField(gate, handle.value), { flush: 'post' });
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
    hint: { id: ids.hint },
    messages: { id: ids.messages, 'data-gate-messages': path },
    get button() {
      return { ...button.value, 'aria-describedby': describedBy.value || undefined };
    },
    add: (value, at) => gate.list(path).add(value, at),
    remove: (index) => gate.list(path).remove(index),
    move: (from, to) => gate.list(path).move(from, to),
  };
}
