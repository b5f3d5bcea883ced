// Runs every benchmark; each runs alone, too: node --conditions=production bench/validate.mjs
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';

for (const name of ['validate', 'gate', 'dom', 'react', 'server', 'records', 'types']) {
  console.log(`\n${name}`);
  spawnSync(process.execPath, ['--conditions=production', '--expose-gc', join(import.meta.dirname, `${name}.mjs`)], { stdio: 'inherit' });
}
