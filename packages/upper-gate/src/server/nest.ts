// From the names of a form's controls to values that lie in one another: `crew.0.name`.

import type { Limits } from './limits.ts';
import { Refusal } from './problem.ts';

/** Names that reach for what every object has; nobody's field is called so. */
const HOSTILE = ['__proto__', 'constructor', 'prototype'];

const isIndex = (key: string): boolean => /^(0|[1-9]\d*)$/.test(key);
type Box = Record<string, unknown> | unknown[];
const isBox = (value: unknown): value is Box =>
  typeof value === 'object' && value !== null && [Object.prototype, Array.prototype].includes(Object.getPrototypeOf(value) as object);

/**
 * Puts named values together. A name that comes several times holds a list; one that cannot be placed beside another
 * (`a` and `a.b`) or is hostile is dropped.
 *
 * @throws Refusal for more, deeper or longer than the limits allow
 */
export function nest(entries: Iterable<readonly [name: string, value: unknown]>, limits: Required<Limits>): Record<string, unknown> {
  const root: Record<string, unknown> = {};
  let count = 0;
  for (const [name, value] of entries) {
    count += 1;
    if (count > limits.keys) throw new Refusal(400, 'Too many values', `A request may hold ${limits.keys} values.`);
    const keys = name.split('.');
    if (keys.length > limits.depth) throw new Refusal(400, 'Values too deep', `Values may lie ${limits.depth} deep.`);
    if (!keys.some((key) => HOSTILE.includes(key))) place(root, keys, value, limits);
  }
  return root;
}

function place(root: Box, keys: readonly string[], value: unknown, { listLength }: Required<Limits>): void {
  let box = root;
  for (let at = 0; ; at += 1) {
    const key = keys[at]!;
    if (Array.isArray(box)) {
      if (!isIndex(key)) return;
      if (Number(key) >= listLength) throw new Refusal(400, 'List too long', `A list may hold ${listLength} entries.`);
      // No holes: what is not named is a row without values.
      while (box.length < Number(key)) box.push(undefined);
    }
    const boxes = box as Record<string, unknown>;
    const before = Object.hasOwn(boxes, key) ? boxes[key] : undefined;
    if (at === keys.length - 1) {
      if (before === undefined) boxes[key] = value;
      else if (Array.isArray(before) && !before.some(isBox)) before.push(value);
      else if (!isBox(before)) boxes[key] = [before, value];
      return;
    }
    if (before !== undefined && !isBox(before)) return;
    boxes[key] = box = before ?? (isIndex(keys[at + 1]!) ? [] : {});
  }
}

/**
 * Goes through values that came nested already, from JSON.
 *
 * @returns them without hostile names
 * @throws Refusal for more, deeper or longer than the limits allow
 */
export function inspect(value: unknown, limits: Required<Limits>): unknown {
  let count = 0;
  const look = (inner: unknown, depth: number): unknown => {
    if (typeof inner !== 'object' || inner === null) return inner;
    if (depth >= limits.depth) throw new Refusal(400, 'Values too deep', `Values may lie ${limits.depth} deep.`);
    const isList = Array.isArray(inner);
    if (isList && inner.length > limits.listLength)
      throw new Refusal(400, 'List too long', `A list may hold ${limits.listLength} entries.`);
    const entries = Object.entries(inner).filter(([key]) => !HOSTILE.includes(key));
    count += entries.length;
    if (count > limits.keys) throw new Refusal(400, 'Too many values', `A request may hold ${limits.keys} values.`);
    const looked = entries.map(([key, each]) => [key, look(each, depth + 1)] as const);
    return isList ? looked.map(([, each]) => each) : Object.fromEntries(looked);
  };
  return look(value, 0);
}
