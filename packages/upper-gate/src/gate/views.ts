// What a callback sees of a live form: an object with a property for each field of a group, a list with an item for each
// row. Each is read when the callback reads it, and the read is recorded.

const READ: unique symbol = Symbol('read');
interface View {
  readonly [READ]: (key: string) => unknown;
}

/** The properties of views, made once for each list of keys, so that all views of a group are alike. */
const propertiesOf = new WeakMap<readonly string[], PropertyDescriptorMap>();

function viewProperties(keys: readonly string[]): PropertyDescriptorMap {
  let properties = propertiesOf.get(keys);
  if (properties) return properties;
  properties = {};
  for (const key of keys) {
    properties[key] = {
      get(this: View): unknown {
        return this[READ](key);
      },
      enumerable: true,
    };
  }
  propertiesOf.set(keys, properties);
  return properties;
}

/** A view on fields under names. Own properties, so that it spreads, lists and serialises as data would. */
export const makeView = (keys: readonly string[], readKey: (key: string) => unknown): object =>
  Object.defineProperties({}, { [READ]: { value: readKey }, ...viewProperties(keys) });

/** A view on rows: each is read when it is needed, so that the length can be read whatever is in them. */
export const makeListView = <T>(rows: readonly T[], readRow: (row: T) => unknown): readonly unknown[] =>
  new Proxy(rows, {
    get: (target, key) =>
      typeof key === 'string' && /^\d+$/.test(key) && key in target
        ? readRow(target[Number(key)] as T)
        : (Reflect.get(target, key) as unknown),
  });
