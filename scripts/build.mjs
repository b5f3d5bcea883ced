// Builds what is published and what the demo serves: packages and servers by the compiler, pages by Vite. Pages are built
// again only where something that they are made from is newer than their build. `node scripts/build.mjs compile` builds a part.
import { spawnSync } from 'node:child_process';
import { readdirSync, rmSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { tsc } from './compiler.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const library = join(root, 'packages/upper-gate/dist');
const GENERATED = ['node_modules', 'dist', 'dist-server', 'test', '.data', 'reference'];

/** The time of the newest file in a folder, in milliseconds; 0 without files. */
function newest(folder, skip = GENERATED) {
  let time = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (skip.includes(entry.name)) continue;
    const path = join(folder, entry.name);
    time = Math.max(time, entry.isDirectory() ? newest(path, skip) : statSync(path).mtimeMs);
  }
  return time;
}

/** When the pages in a folder were built, in milliseconds; 0 where they were not. */
const builtAt = (folder) => statSync(join(folder, 'index.html'), { throwIfNoEntry: false })?.mtimeMs ?? 0;

const bin = (name) => join(root, 'node_modules/.bin', name);

function run(command, args, cwd = root) {
  // Whoever builds, such as a test run, the pages are those of production.
  const env = { ...process.env, NODE_ENV: 'production' };
  const { status } = spawnSync(command, args, { cwd, env, stdio: 'inherit', shell: process.platform === 'win32' });
  if (status !== 0) throw new Error(`${[command, ...args].join(' ')} failed in ${cwd}.`);
}

/** What can be built, in the order in which it has to be. Pages and site are left as they are where nothing newer is around. */
const PARTS = {
  /** What is published, and the servers. */
  compile() {
    run(process.execPath, [tsc, '-b']);
    // The binding for Angular, by the compiler of that, which takes a TypeScript of its own.
    const angular = join(root, 'packages/angular');
    const built = statSync(join(library, 'angular/index.js'), { throwIfNoEntry: false })?.mtimeMs ?? 0;
    if (built < Math.max(newest(angular), newest(library, ['angular'])))
      run(process.execPath, [join(angular, 'node_modules/.bin/ngc'), '-p', angular]);
  },
  /** The pages of the examples. */
  pages() {
    const examples = join(root, 'examples');
    const sources = Math.max(newest(examples), newest(library, []));
    for (const name of readdirSync(examples))
      if (builtAt(join(examples, name, 'dist')) < sources) run(bin('vite'), ['build', '--logLevel', 'error'], join(examples, name));
  },
  /** The documentation. */
  site() {
    const docs = join(root, 'docs');
    if (builtAt(join(docs, 'dist')) >= Math.max(newest(docs), newest(library, []))) return;
    for (const folder of ['reference', 'dist']) rmSync(join(docs, folder), { recursive: true, force: true });
    run(bin('typedoc'), ['--options', 'docs/site/typedoc.js', '--logLevel', 'Warn']);
    run(bin('eleventy'), ['--config', 'docs/site/eleventy.config.js', '--quiet']);
    run(bin('vite'), ['build', '--logLevel', 'error'], join(docs, 'live'));
  },
  /** The playground of the documentation. */
  playground() {
    const folder = join(root, 'docs/try');
    // (Its styles come from the site, and from the frame of the recipes.)
    const sources = [folder, ...['docs/live', 'docs/site', 'packages/cli/src'].map((part) => join(root, part))].map((part) => newest(part));
    if (builtAt(join(folder, 'dist')) >= Math.max(...sources, newest(library, []))) return;
    run(bin('vite'), ['build', '--logLevel', 'error'], folder);
  },
};

/** Builds everything, or some parts. @throws Error if something does not build */
export function build(parts = Object.keys(PARTS)) {
  parts.forEach((part) => PARTS[part]());
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const named = process.argv.slice(2);
  try {
    build(named.length > 0 ? named : undefined);
  } catch (error) {
    console.error(error.message);
    process.exitCode = 1;
  }
}
