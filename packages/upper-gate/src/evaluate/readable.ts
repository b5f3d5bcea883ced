// Data of a whole value as callbacks read it.

import { NO_VALUE, WAITING } from '../schema/noValue.ts';
import type { Walker } from '../schema/walker.ts';

/** Less deep than every group. */
const OUTSIDE = -1;

/**
 * Data as callbacks read it: where a value is missing, whoever reads that waits.
 *
 * @param from the depth of the group that declares the callback; default: that of the data
 * @throws WAITING if there is no data
 */
export function readable(walker: Pick<Walker, 'incomplete'>, data: unknown, from?: number): unknown {
  if (data === NO_VALUE) throw WAITING;
  const { incomplete } = walker;
  if (!incomplete?.has(data as object)) return data;
  const view = incomplete.get(data as object);
  const depth = from ?? view?.depth ?? OUTSIDE;
  return new Proxy(data as object, {
    get: (target, key) => {
      const value: unknown = Reflect.get(target, key);
      if (value === undefined && typeof key === 'string' && view?.find(key)?.isTakenFrom(depth)) throw WAITING;
      return readable(walker, value, depth);
    },
  });
}
