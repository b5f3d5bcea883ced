/** The call, or a file, is wrong: told in one line, with what to do. Exit code 2. */
export class Failure extends Error {}

/** The first line of what was thrown. */
export function firstLine(error: unknown): string {
  const text = error instanceof Error ? error.message : String(error);
  return text.split('\n')[0] ?? '';
}

/** What to say of a process, or a thread, that a module ended. */
export const ended = (doing: string): string => `The process ended while ${doing}: a module calls process.exit(), or never finishes.`;
