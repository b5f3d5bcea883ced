// An empty database of the demo, made once: making one takes eight seconds, copying it none. `emptyDatabase()` is also Jest's
// globalSetup of the tests that start the demo (after what they run is built).
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { once } from 'node:events';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import buildForTests from './buildForTests.mjs';

const root = join(import.meta.dirname, '..');
const server = join(root, 'examples/lock-passage/dist-server/server');
const cache = join(root, 'node_modules/.cache');

/** Where it is; another one for each version of the schema and of the database. */
function folder() {
  const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'));
  const { version } = packages['node_modules/@electric-sql/pglite'];
  const hash = createHash('sha256')
    .update(readFileSync(join(server, 'database.js')))
    .update(version);
  return join(cache, `lock-passage-${hash.digest('hex').slice(0, 12)}`);
}

/** Makes the database, unless it is there. @returns its folder */
export async function emptyDatabase() {
  const made = folder();
  if (existsSync(made)) return made;
  mkdirSync(cache, { recursive: true });
  const draft = mkdtempSync(join(cache, 'draft-'));
  const child = spawn(process.execPath, [join(server, 'main.js')], {
    env: { ...process.env, PORT: '0', LOCK_PASSAGE_DATA: join(draft, 'data') },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  // It prints its address once the database is open.
  await Promise.race([once(child.stdout, 'data'), once(child, 'exit')]);
  if (child.exitCode !== null) {
    rmSync(draft, { recursive: true, force: true });
    throw new Error(`The demo's server ended with code ${child.exitCode} before its database was made. Run npm run build, then npm start.`);
  }
  child.kill();
  await once(child, 'exit');
  // (Another process may have made it meanwhile.)
  if (!existsSync(made)) renameSync(join(draft, 'data'), made);
  rmSync(draft, { recursive: true, force: true });
  return made;
}

export default async function setUp() {
  buildForTests();
  process.env['EMPTY_DATABASE'] = await emptyDatabase();
}
