// Runs the command, as it was built, in the folder of the demo.

import { execFile } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export const root = join(__dirname, '../../..');
const example = join(root, 'examples/lock-passage');
export const command = join(root, 'packages/cli/bin/upper-gate.js');
const scratch = mkdtempSync(join(tmpdir(), 'upper-gate-'));
/** The library, as modules written by tests import it. */
export const library = JSON.stringify(join(root, 'packages/upper-gate/dist/index.js'));

/** Writes a file among the throw-away ones. */
export function file(name: string, text: string | Buffer): string {
  const path = join(scratch, name);
  writeFileSync(path, text);
  return path;
}

/** The same wherever the tests run: Jest hands its own wish for colour down. */
const env = { ...process.env, FORCE_COLOR: undefined, NO_COLOR: undefined };

interface Ran {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}
/** Runs the command on standard input, in an environment. */
const runWith = (input: string | Buffer, world: NodeJS.ProcessEnv, args: readonly string[]) =>
  new Promise<Ran>((resolve) => {
    const options = { cwd: example, env: { ...env, ...world }, encoding: 'utf8', maxBuffer: 1e8 } as const;
    const child = execFile(process.execPath, [command, ...args], options, (error, out, err) => resolve({ code: error ? Number(error.code) : 0, out, err }));
    child.stdin!.on('error', () => undefined).end(input);
  });
export const run = (...args: string[]) => runWith('', {}, args);
export const runIn = (world: NodeJS.ProcessEnv, ...args: string[]) => runWith('', world, args);
export const pipe = (input: string | Buffer, ...args: string[]) => runWith(input, {}, args);

/** Runs a line of a shell. @returns the exit code of its first command, and what was printed */
export const shell = (line: string) =>
  new Promise<{ code: number; out: string; err: string }>((resolve) => {
    const script = `cd ${scratch}; ${line.replaceAll('upper-gate', `${process.execPath} ${command}`)}; exit "\${PIPESTATUS[0]}"`;
    execFile('bash', ['-c', script], (error, out, err) => resolve({ code: error ? Number(error.code) : 0, out, err }));
  });
