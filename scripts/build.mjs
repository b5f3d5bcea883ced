// Builds what is published and what the demo serves: packages and servers by the compiler, pages by Vite. Pages are built
// again only where something that they are made from is newer than their build.
import { spawnSync } from 'node:child_process';
import { readdirSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const GENERATED = ['node_modules', 'dist', 'dist-server', 'test', '.data'];

/** The time of the newest file in a folder, in milliseconds; 0 where there is none. */
function newest(folder, skip = GENERATED) {
  let time = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (skip.includes(entry.name)) continue;
    const path = join(folder, entry.name);
    time = Math.max(time, entry.isDirectory() ? newest(path, skip) : statSync(path).mtimeMs);
  }
  return time;
}

function run(command, args, cwd = root) {
  const { status } = spawnSync(command, args, { cwd, stdio: 'inherit', shell: process.platform === 'win32' });
  if (status !== 0) throw new Error(`${[command, ...args].join(' ')} failed in ${cwd}.`);
}

/** Compiles, and builds pages that are out of date. @throws Error if something does not build */
export function build() {
  run('npx', ['tsc', '-b']);
  const examples = join(root, 'examples');
  const sources = Math.max(newest(examples), newest(join(root, 'packages/upper-gate/dist'), []));
  for (const name of readdirSync(examples)) {
    const page = join(examples, name, 'dist/index.html');
    const built = statSync(page, { throwIfNoEntry: false })?.mtimeMs ?? 0;
    if (built < sources) run('npm', ['run', '-s', 'build'], join(examples, name));
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  try {
    build();
  } catch (error) {
    console.error(error.message);
    process.exitCode = 1;
  }
}
