/** A file of any size, which takes no memory: what the library looks at, and content as only a real file has it. */
export const fileOf = (name: string, size: number, type = '') => ({ name, size, type, slice: () => new Blob() });
