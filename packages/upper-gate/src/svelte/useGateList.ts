// The rows of a list.

import { type AdderAttributes, type ListBundles, listBundles, readViews, viewList } from '../binding/index.ts';
import type { AnyGate, Gate, ItemAt, ItemIn, ListPathOf } from '../gate/gate.ts';
import type { Handle } from '../gate/handle.ts';
import type { List } from '../schema/list/list.ts';
import type { Node } from '../schema/node.ts';
import { attached, type Attached } from './attachments.ts';
import { type Reading, track, valueOf } from './following.ts';

/** The rows of a list, and functions that change them. Its properties are reactive: don't destructure it. */
export type GateList<I extends Node = Node> = ListBundles<I, AdderAttributes & Attached>;

/**
 * Connects a component to a list. It updates when rows come, go or move, and when the messages of the list itself change; not for
 * changes within the rows.
 *
 * @param gate the gate of the form, or a function that reads it from props
 * @param list its path, or its handle: in a row, `row.field('jobs')`; also a function that reads one from props
 * @returns the rows, what edits them, and the attributes of their elements
 *
 * @example
 * const crew = useGateList(gate, 'crew');
 * // {#each crew.rows as row, i (row.key)} <CrewMember {gate} {row} remove={() => crew.remove(i)} /> {/each}
 */
export function useGateList<N extends Node, P extends string>(gate: Reading<Gate<N>>, list: ListPathOf<N, P>): GateList<ItemAt<N, P>>;
export function useGateList<L extends List<Node>>(gate: Reading<AnyGate>, list: Reading<Handle<L>>): GateList<ItemIn<L>>;
export function useGateList(gate: Reading<AnyGate>, given: Reading<string | Handle>): GateList {
  const read = readViews(track, () => [valueOf(gate), valueOf(given)], viewList);
  return listBundles(read, (attributes, attach) => ({ ...attributes, ...attached(attach, read()) }));
}
