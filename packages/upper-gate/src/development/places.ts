// Where parts and rules were declared: recorded only where somebody has asked for it, since a stack for each costs time and memory.

/** A place in a source file. */
export interface Place {
  readonly file: string;
  /** Of the source as far as the stack says: what is compiled on the way has to keep lines, or to bring source maps that are applied. */
  readonly line: number;
}

// (On the global object, so that all copies of the library take part.)
const RECORDING: unique symbol = Symbol.for('upper-gate: records places');
const PLACE: unique symbol = Symbol.for('upper-gate: declared at');

/** Has the places of all parts and rules recorded that are declared from now on. */
export function startRecording(): void {
  (globalThis as { [RECORDING]?: boolean })[RECORDING] = true;
}

/** How many calls are looked through for that of the author: a part of a document is made deep inside the library. */
const DEEPEST = 60;

/** What a part or rule keeps to say where it was declared. */
export function declared(): object | undefined {
  if (!(globalThis as { [RECORDING]?: boolean })[RECORDING]) return undefined;
  const system = Error as { stackTraceLimit?: number };
  const { stackTraceLimit = 10 } = system;
  system.stackTraceLimit = DEEPEST;
  const error = new Error('declared');
  system.stackTraceLimit = stackTraceLimit;
  return { [PLACE]: error };
}

/** One line of a stack, as V8 writes it. */
const FRAME = /^at (?:.*? \()?(?:file:\/\/)?(.*):(\d+):\d+\)?$/;

/** Where a part or rule was declared: the first call outside of this library; undefined if that was not recorded. */
export function placeOf(what: object): Place | undefined {
  const error = (what as { [PLACE]?: Error })[PLACE];
  const frames = (error?.stack ?? '').split('\n').flatMap((line): readonly Place[] => {
    const [, file, row] = FRAME.exec(line.trim()) ?? [];
    return file === undefined ? [] : [{ file: decodeURI(file), line: Number(row) }];
  });
  // The first is that of this module: what lies beside it is the library.
  const library = frames[0]?.file.replace(/[^/\\]+[/\\][^/\\]+$/, '');
  return library === undefined ? undefined : frames.find(({ file }) => !file.startsWith(library) && !file.startsWith('node:'));
}
