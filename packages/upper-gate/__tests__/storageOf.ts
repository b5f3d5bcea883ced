/** A storage that keeps its entries in a map. */
export const storageOf = (kept: Map<string, string>) => ({
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
  removeItem: (key: string) => void kept.delete(key),
});
