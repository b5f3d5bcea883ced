// What a callback sees of the fields of a group: an object with a property for each, read (and recorded) when the callback
// reads it.

const READ: unique symbol = Symbol('read');
interface View {
  readonly [READ]: (key: string) => unknown;
}

/** The properties of views, made once for each list of keys, so that all views of a group are alike. */
const propertiesOf = new WeakMap<readonly string[], PropertyDescriptorMap>();

function viewProperties(keys: readonly string[]): PropertyDescriptorMap {
  let properties = propertiesOf.get(keys);
  if (properties) return properties;
  // (Also one of the name `__proto__`.)
  properties = Object.fromEntries(
    keys.map((key) => [
      key,
      {
        get(this: View): unknown {
          return this[READ](key);
        },
        enumerable: true,
      },
    ]),
  );
  propertiesOf.set(keys, properties);
  return properties;
}

/** A view on fields under names. Own properties, so that it spreads, lists and serialises as data would. */
export const makeView = (keys: readonly string[], readKey: (key: string) => unknown): object =>
  Object.defineProperties({}, { [READ]: { value: readKey }, ...viewProperties(keys) });
