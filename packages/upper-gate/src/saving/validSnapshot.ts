// What of a form can be saved: what is valid, also in the whole that comes of it.

import type { BaseNode } from '../gate/node.ts';
import type { FormStore } from '../gate/store.ts';
import { blocks } from '../schema/severity.ts';
import { isFinding } from '../validate/entries.ts';
import { Walk } from '../validate/walk.ts';
import { isReadable, isWhole, savedData, take, type Fits, type Snapshot } from './snapshot.ts';

/** The nodes on which there would be an error if a snapshot were saved: the rules between fields see the whole, with what is left. */
function wrongIn(store: FormStore, { left }: Snapshot): ReadonlySet<BaseNode> {
  const { root, catalogue, now } = store;
  const rawOf = (node: BaseNode): unknown => (left.has(node) ? node.saved : isWhole(node) ? node.raw : node.fold(rawOf));
  const walk = new Walk({ ...(catalogue && { messages: catalogue }), now }, store);
  walk.whole(root.part, rawOf(root));
  const wrong = walk.entries.filter((entry) => isFinding(entry) && blocks(entry)).map(({ path }) => store.find(path));
  return new Set(wrong.filter((node) => node !== undefined));
}

/** Whether a rule of a node, or of a group around it, could not validate it: a fact is lacking. */
const isLacking = (node: BaseNode | undefined): boolean =>
  node !== undefined && (node.kit.lackingNodes?.isAt(node) === true || isLacking(node.parent));

const isValid: Fits = (node) =>
  isReadable(node) &&
  (!isWhole(node) || (node.errors === 0 && node.pending === 0 && !node.kit.lackingNodes?.isBelow(node) && !isLacking(node.parent)));

/** The same as `takeSnapshot`; what has an error, or awaits an answer, is left as it was saved, too. */
export function takeValid(store: FormStore): Snapshot {
  const saved = savedData(store);
  const snapshot = take(store, saved, isValid);
  const wrong = wrongIn(store, snapshot);
  return wrong.size === 0 ? snapshot : take(store, saved, (node) => isValid(node) && !wrong.has(node));
}
