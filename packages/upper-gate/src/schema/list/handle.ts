// The rows of a list, as the outside sees and edits them. It comes with the list, so that a form without one doesn't load it.

import { DEV, explain, fieldsBelow } from '#development';
import { wrongUse } from '../assertUse.ts';
import type { LiveNode, LiveRows, NodeKit } from '../kit.ts';
import type { Part } from '../part.ts';

type Node = LiveNode<Part>;

/** One row, with handles of a type that the gate knows. */
interface Row<H> {
  readonly key: string;
  readonly handle: H;
  readonly field: (path: string) => H;
}

const rowOfNode = /* @__PURE__ */ new WeakMap<Node, Row<unknown>>();

/** What stands for a row: always the same object. */
function rowOf<H>(node: Node, kit: NodeKit<Part>, handleOf: (node: Node) => H): Row<H> {
  const known = rowOfNode.get(node) as Row<H> | undefined;
  if (known) return known;
  kit.rowsMade += 1;
  const field = (path: string): H => {
    const found = kit.find(path, node) as Node | undefined;
    if (!found)
      throw wrongUse(DEV && explain('wrong-path', `The row has no field "${path}". Its fields: ${fieldsBelow(node).join(', ')}.`));
    return handleOf(found);
  };
  const row = { key: `row-${kit.rowsMade}`, handle: handleOf(node), field };
  rowOfNode.set(node, row);
  return row;
}

/** The rows of a list, and what edits them. */
export function rowsHandle<H>(
  node: Node & LiveRows<Part>,
  kit: NodeKit<Part>,
  handleOf: (node: Node) => H,
  subscribe: (listener: () => void) => () => void,
) {
  const toRow = (row: Node): Row<H> => rowOf(row, kit, handleOf);
  return {
    get rows() {
      return node.rows.map(toRow);
    },
    get length() {
      return node.rows.length;
    },
    row: (index: number) => toRow(node.rowAt(index)),
    add: (value: unknown, at?: number) => toRow(node.addRow(value, at)),
    remove: (index: number) => node.removeRow(index),
    move: (from: number, to: number) => node.moveRow(from, to),
    subscribe,
  };
}
