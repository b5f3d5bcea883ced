// Installs what package-lock.json says, where that has not been done yet: `npm start` and `npm test` need no step before.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

// (Also called in the folder of a package.)
process.chdir(join(import.meta.dirname, '..'));

const stamp = 'node_modules/.setup-of-lockfile';
const lockfile = readFileSync('package-lock.json', 'utf8');
if (!existsSync(stamp) || readFileSync(stamp, 'utf8') !== lockfile) {
  console.log('Setting up (npm ci) ...');
  const { status } = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    stdio: 'inherit',
    shell: process.platform === 'win32',
  });
  if (status !== 0) process.exit(status ?? 1);
  writeFileSync(stamp, lockfile);
}
