// A PostgreSQL server for tests, in a temporary folder.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, rmSync, chmodSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const VERSIONS = '/usr/lib/postgresql';

function find() {
  const [version] = existsSync(VERSIONS) ? readdirSync(VERSIONS).sort((a, b) => Number(b) - Number(a)) : [];
  return version === undefined ? undefined : join(VERSIONS, version, 'bin');
}

/** The folder of PostgreSQL's programs; installed from Debian's packages where it is missing. @throws Error if that cannot be */
function programs() {
  if (!find()) {
    console.log('Installing PostgreSQL ...');
    for (const args of [['update'], ['install', '-y', '--no-install-recommends', 'postgresql']])
      spawnSync('apt-get', args, { stdio: 'ignore', env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
  }
  const found = find();
  if (!found) throw new Error('PostgreSQL is not installed: apt-get install postgresql.');
  return found;
}

/** Runs a program of PostgreSQL's, which refuses to be run by root. */
function run(program, args) {
  const isRoot = process.getuid?.() === 0;
  const [command, ...rest] = isRoot ? ['runuser', '-u', 'postgres', '--', program, ...args] : [program, ...args];
  const { status, stderr } = spawnSync(command, rest, { encoding: 'utf8', cwd: '/', stdio: ['ignore', 'ignore', 'pipe'] });
  if (status !== 0) throw new Error(`${program} failed: ${stderr}`);
}

/**
 * Starts a server.
 *
 * @param port on this machine
 * @returns its URL, and how to stop it, start it again, and remove it
 */
export function startPostgres(port) {
  const bin = programs();
  const folder = mkdtempSync(join(tmpdir(), 'upper-gate-postgres-'));
  chmodSync(folder, 0o777);
  const data = join(folder, 'data');
  const options = `-p ${port} -k ${folder} -c listen_addresses=127.0.0.1 -c fsync=off`;
  const start = () => run(join(bin, 'pg_ctl'), ['-D', data, '-o', options, '-l', join(folder, 'log'), '-w', 'start']);
  const stop = () => run(join(bin, 'pg_ctl'), ['-D', data, '-m', 'immediate', 'stop']);
  run(join(bin, 'initdb'), ['-D', data, '-U', 'locks', '-A', 'trust']);
  start();
  return {
    url: `postgres://locks@127.0.0.1:${port}/postgres`,
    start,
    stop,
    remove() {
      try {
        stop();
      } catch {
        // It has been stopped already.
      }
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
