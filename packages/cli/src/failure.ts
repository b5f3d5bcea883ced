/** The call, or a file, is wrong: told in one line, with what to do. Exit code 2. */
export class Failure extends Error {}

/** The first line of what was thrown. */
export function firstLine(error: unknown): string {
  const text = error instanceof Error ? error.message : String(error);
  return text.split('\n')[0] ?? '';
}
