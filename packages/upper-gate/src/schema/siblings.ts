// What a cross-field callback sees: an object with a property for each field of its group. Its reads may be watched, and
// a read of a field that has no value yet ends the callback (see WAIT).

/** Thrown through a callback that reads a field without a value of its type: it ends there and reports nothing. */
export const WAITING: unique symbol = Symbol.for('upper-gate: waits for a field that has no value yet');

/** Where a view finds its values. */
export interface Source {
  /** The value of a field; throws `WAIT` where there is none of the right type. */
  read(key: string): unknown;
}

const SOURCE: unique symbol = Symbol('source');
interface View {
  readonly [SOURCE]: Source;
}

/** The properties of a view on a group of these fields; made once per group, so that all its views are alike. */
export function viewProperties(keys: readonly string[]): PropertyDescriptorMap {
  const properties: PropertyDescriptorMap = {};
  for (const key of keys) {
    properties[key] = {
      get(this: View): unknown {
        return this[SOURCE].read(key);
      },
      enumerable: true,
    };
  }
  return properties;
}

/** A view on the fields of one group. Own properties, so that it spreads, lists and serialises as data would. */
export function makeView(properties: PropertyDescriptorMap, source: Source): object {
  return Object.defineProperties({}, { [SOURCE]: { value: source }, ...properties });
}
