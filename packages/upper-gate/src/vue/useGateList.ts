// The rows of a list.

import { toValue, watch, type MaybeRefOrGetter } from 'vue';
import { type AdderAttributes, type ListBundles, listBundles, readViews, viewList } from '../binding/index.ts';
import type { AnyGate, Gate, ItemAt, ItemIn, ListPathOf } from '../gate/gate.ts';
import type { Handle } from '../gate/handle.ts';
import type { List } from '../schema/list/list.ts';
import type { Node } from '../schema/node.ts';
import { type Ref, refOf } from './element.ts';
import { useTracking } from './track.ts';

/** The rows of a list, and functions that change them. A reactive object: don't destructure it. */
export type GateList<I extends Node = Node> = ListBundles<I, AdderAttributes & { readonly ref: Ref }>;

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
  const read = readViews(useTracking(), () => [gate, toValue(given)], viewList);
  watch(
    () => read().now,
    () => read().describe(),
    { flush: 'post' },
  );
  return listBundles(read, (attributes, attach) => ({ ...attributes, ref: refOf(attach) }));
}
