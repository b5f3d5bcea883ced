// What a callback sees of a list.

/** A view on rows: each is read when it is needed, so that the length can be read whatever is in them. */
export const makeListView = <R>(rows: readonly R[], readRow: (row: R) => unknown): readonly unknown[] =>
  new Proxy(rows, {
    get: (target, key) =>
      typeof key === 'string' && /^\d+$/.test(key) && key in target ? readRow(target[Number(key)]!) : (Reflect.get(target, key) as unknown),
  });
