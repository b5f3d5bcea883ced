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

const escape = (character: string): string => `\\u${character.codePointAt(0)!.toString(16).padStart(4, '0')}`;

/** What does something to a terminal, or ends a line. */
const CONTROLS = /[\p{Cc}\p{Bidi_Control}\u2028\u2029]/gu;

/** A text as one line of a terminal: control characters, line breaks and what turns its direction are written as escapes, so that they do nothing. */
export const printable = (text: string): string => text.replace(CONTROLS, escape);

/**
 * The same for a document of several lines, which may be read on a terminal, too.
 *
 * @param write how the format of the document writes such a character; default as JSON and TypeScript do
 */
export const printableDocument = (text: string, write = escape): string =>
  text.replace(CONTROLS, (character) => (character === '\n' || character === '\t' ? character : write(character)));
