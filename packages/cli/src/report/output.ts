// Standard output belongs to what the command prints. Whatever else writes to it, such as a schema module, goes to standard
// error, so that a report can be parsed.

import { once } from 'node:events';

const { stdout, stderr } = process;
const write: (text: string) => boolean = stdout.write.bind(stdout);

/** Takes standard output for `print` alone. @param onBroken called when it cannot be written to any more */
export function takeOutput(onBroken: (error: NodeJS.ErrnoException) => void): void {
  stdout.write = stderr.write.bind(stderr);
  stdout.on('error', onBroken);
}

/**
 * Prints.
 *
 * @returns a promise where whoever reads cannot take more now: wait for it, so that memory stays bounded
 */
export const print = (text: string): Promise<void> | undefined => (write(text) ? undefined : once(stdout, 'drain').then(() => undefined));

/** A text as one line of a terminal: control characters and line breaks are written as escapes, so that they do nothing. */
export const printable = (text: string): string =>
  text.replace(/[\p{Cc}\u2028\u2029]/gu, (character) => `\\u${character.codePointAt(0)!.toString(16).padStart(4, '0')}`);
