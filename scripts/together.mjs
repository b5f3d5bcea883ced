// Runs scripts of package.json beside each other, on two cores: `node scripts/together.mjs lint types`. What each prints comes
// in one piece; fails if one of them does.
import { spawn } from 'node:child_process';
import { once } from 'node:events';

const run = async (name) => {
  const child = spawn('npm', ['run', '-s', name], { stdio: ['ignore', 'pipe', 'pipe'], shell: process.platform === 'win32' });
  let said = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (said += text));
  const [status] = await once(child, 'close');
  process.stdout.write(said);
  if (status !== 0) console.error(`npm run ${name} failed.`);
  return status === 0;
};
const results = await Promise.all(process.argv.slice(2).map(run));
process.exitCode = results.every(Boolean) ? 0 : 1;
