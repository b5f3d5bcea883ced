// Values that came nested already, from JSON.

import { LimitError, type NestLimits } from '../interop/names.ts';

/**
 * Goes through values that came nested already, from JSON. Every key is data, whatever it is called.
 *
 * @returns a copy, whose keys are its own
 * @throws LimitError for more, deeper or longer than the limits allow
 */
export function inspect(value: unknown, limits: NestLimits): unknown {
  let count = 0;
  const look = (inner: unknown, depth: number): unknown => {
    if (typeof inner !== 'object' || inner === null) return inner;
    if (depth >= limits.depth) throw new LimitError(`Values can be nested at most ${limits.depth} levels deep.`);
    const isList = Array.isArray(inner);
    if (isList && inner.length > limits.listLength) throw new LimitError(`A list can have at most ${limits.listLength} entries.`);
    const entries = Object.entries(inner);
    count += entries.length;
    if (count > limits.keys) throw new LimitError(`At most ${limits.keys} values are accepted.`);
    const looked = entries.map(([key, each]) => [key, look(each, depth + 1)] as const);
    return isList ? looked.map(([, each]) => each) : Object.fromEntries(looked);
  };
  return look(value, 0);
}
