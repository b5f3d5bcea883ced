// Values that came nested already, from JSON.

import { LimitError, type NestLimits } from '../interop/names.ts';

/**
 * Goes through values that came nested already, from JSON. Every key is data, whatever it is called.
 *
 * @throws LimitError for more, deeper or longer than the limits allow
 */
export function inspect(value: unknown, limits: NestLimits): void {
  let count = 0;
  const look = (inner: unknown, depth: number): void => {
    if (typeof inner !== 'object' || inner === null) return;
    if (depth >= limits.depth) throw new LimitError(`Values can be nested at most ${limits.depth} levels deep.`);
    if (Array.isArray(inner) && inner.length > limits.listLength)
      throw new LimitError(`A list can have at most ${limits.listLength} entries.`);
    const values: readonly unknown[] = Array.isArray(inner) ? inner : Object.values(inner);
    count += values.length;
    if (count > limits.keys) throw new LimitError(`At most ${limits.keys} values are accepted.`);
    for (const each of values) look(each, depth + 1);
  };
  look(value, 0);
}
