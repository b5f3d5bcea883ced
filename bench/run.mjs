// Runs every benchmark; each runs alone, too: node --conditions=production bench/validate.mjs
// With --record, the figures are kept in results.json, and the charts of the documentation are drawn from them.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { drawCharts } from './charts.mjs';

const records = process.argv.includes('--record');
const figures = join(mkdtempSync(join(tmpdir(), 'bench-')), 'figures.ndjson');
const env = { ...process.env, ...(records && { BENCH_FIGURES: figures }) };
for (const name of ['validate', 'edit', 'trace', 'gate', 'dom', 'react', 'frameworks', 'server', 'records', 'types']) {
  console.log(`\n${name}`);
  spawnSync(process.execPath, ['--conditions=production', '--expose-gc', join(import.meta.dirname, `${name}.mjs`)], {
    stdio: 'inherit',
    env,
  });
}
if (records) {
  const lines = readFileSync(figures, 'utf8').trim().split('\n');
  const results = { node: process.version, figures: lines.map((line) => JSON.parse(line)) };
  writeFileSync(join(import.meta.dirname, 'results.json'), `${JSON.stringify(results, null, 2)}\n`);
  await drawCharts();
}
