// What was edited since a form was saved: as data, and as patches for a server.

import { BESIDE } from '../schema/finding.ts';
import type { Gate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import type { Values } from '../gate/values.ts';
import { isGroup, type Fields } from '../schema/group.ts';
import type { Json } from '../schema/json.ts';
import type { LiveNode } from '../schema/kit.ts';
import type { DATA, Node } from '../schema/node.ts';
import type { Part } from '../schema/part.ts';
import { ownValue } from '../schema/safeAccess.ts';
import { sameData, jsonPatchOf, mergePatchOf, type PatchOperation } from './diff.ts';
import { travelling } from '../schema/travel.ts';
import { isWhole, takeSnapshot, type Snapshot } from './snapshot.ts';

/**
 * The changed values: of a group, its changed fields; of anything else, the new value. `undefined` means that there is no
 * value any more.
 */
export type ChangesOf<N extends Node> = N extends { readonly fields: infer F extends Fields }
  ? { readonly [P in keyof F]?: ChangesOf<F[P]> | undefined }
  : N[typeof DATA];

/** A merge patch (RFC 7396) of an object. */
export type MergePatch = Readonly<Record<string, Json>>;

/** The changes of a part; nothing of a part is changed where the values are the same. */
export function changesIn(part: Part, before: unknown, now: unknown): unknown {
  if (!isGroup(part) || now === undefined) return now;
  const changed = part.keys.filter((key) => !sameData(ownValue(before, key), ownValue(now, key)));
  return Object.fromEntries(changed.map((key) => [key, changesIn(part.locate(key)!.part, ownValue(before, key), ownValue(now, key))]));
}

/** The changes as a merge patch, of data as they travel. */
export const mergePatchIn = (part: Part, { saved, now }: Snapshot): MergePatch =>
  (mergePatchOf(travelling(part, saved), travelling(part, now)) ?? {}) as MergePatch;

/** The same as a JSON Patch. */
export const jsonPatchIn = (part: Part, { saved, now }: Snapshot): readonly PatchOperation[] =>
  jsonPatchOf(travelling(part, saved), travelling(part, now));

/**
 * Returns what has changed since the form was saved: since the initial values, `rebase()`, the last acceptance, or
 * `markSaved()`. Values are compared by the data they read as. Lists are included as a whole. A field that no longer applies
 * is `undefined`; one that cannot be read (and a list with such a field in it) is left out.
 *
 * @param gate the gate of the form
 * @returns an empty object where nothing was changed
 *
 * @example
 * gate.field('beam').set('4.1');
 * changesOf(gate); // { beam: 4.1 }
 */
export function changesOf<N extends Node>(gate: Gate<N>): ChangesOf<N> {
  const { store } = internalsOf(gate);
  const { saved, now } = takeSnapshot(store);
  return changesIn(store.root.part, saved, now) as ChangesOf<N>;
}

/**
 * Returns the changes as a merge patch (RFC 7396), for `application/merge-patch+json`. A removed value is `null`.
 *
 * @param gate the gate of the form
 * @returns the patch
 * @throws TypeError for a changed value that JSON cannot hold, such as a file: it names the path
 *
 * @example
 * await fetch('/bookings/7', { method: 'PATCH', headers: { 'content-type': 'application/merge-patch+json' }, body: JSON.stringify(toMergePatch(gate)) });
 */
export function toMergePatch<N extends Node>(gate: Gate<N>): MergePatch {
  const { store } = internalsOf(gate);
  return mergePatchIn(store.root.part, takeSnapshot(store));
}

/**
 * Returns the changes as a JSON Patch (RFC 6902), for `application/json-patch+json`. Lists are replaced as a whole.
 *
 * @param gate the gate of the form
 * @returns the operations
 * @throws TypeError as `toMergePatch`
 *
 * @example
 * toJsonPatch(gate); // [{ op: 'replace', path: '/beam', value: 4.1 }]
 */
export function toJsonPatch<N extends Node>(gate: Gate<N>): readonly PatchOperation[] {
  const { store } = internalsOf(gate);
  return jsonPatchIn(store.root.part, takeSnapshot(store));
}

/**
 * Marks the current values as saved: nothing is `dirty`, and a reset leads back to them.
 *
 * @param gate the gate of the form
 * @param values what was saved, raw or data, where that is not what the form holds by now: what was edited meanwhile stays changed
 *
 * @example
 * await save(gate.root.data);
 * markSaved(gate);
 */
export function markSaved<N extends Node>(gate: Gate<N>, values?: Values<N>): void {
  const { store } = internalsOf(gate);
  const { root } = store;
  store.change(() => {
    if (values === undefined) root.accept(NONE);
    else markAs(root, values);
    root.moveInitial();
    store.markChanged(root);
  });
}

const NONE: ReadonlyMap<LiveNode, unknown> = new Map();

/** What is not named stays; what does not apply has no value, but keeps what its control holds. */
function markAs(node: BaseNode, value: unknown): void {
  if (isWhole(node)) return value === undefined && !node.ownApplies ? node.accept(NONE) : node.markSaved(value);
  for (const child of node.children) {
    if (child.key === BESIDE) markAs(child, value);
    else if (typeof value === 'object' && value !== null && Object.hasOwn(value, child.key)) markAs(child, ownValue(value, child.key));
  }
}
