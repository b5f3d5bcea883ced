// The mutation runner: changes the code of the heart, one place after another, and looks whether a test notices. That takes two nights
// on two cores, so a run takes the files that were looked at longest ago, for as long as it may:
//
//   npm run mutants -- --hours 5 --processes 2 [files ...]
//
// Scores are recorded in scores.json, by file.

import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { Stryker } from '@stryker-mutator/core';

const root = fileURLToPath(new URL('../..', import.meta.url));
const sources = 'packages/upper-gate/src';
const recorded = new URL('scores.json', import.meta.url);
const scores = JSON.parse(readFileSync(recorded, 'utf8'));
process.chdir(root);
// A model's sessions are long, and a few find what is found at all.
process.env.MODEL_RUNS = '10';

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { hours: { type: 'string', default: '5' }, processes: { type: 'string', default: '2' } },
});
const end = Date.now() + Number(values.hours) * 3_600_000;
const dateOf = (file) => scores[file]?.date ?? '';
const all = ['evaluate', 'validate', 'gate', 'saving'].flatMap((part) =>
  readdirSync(`${sources}/${part}`).map((file) => `${part}/${file}`),
);
const files = positionals.length > 0 ? positionals : all.sort((a, b) => (dateOf(a) < dateOf(b) ? -1 : 1));

for (const file of files) {
  if (Date.now() > end) break;
  const results = await new Stryker({
    mutate: [`${sources}/${file}`],
    // Texts are for development, or asserted where they are words.
    mutator: { excludedMutations: ['StringLiteral'] },
    testRunner: 'jest',
    jest: { configFile: 'scripts/mutants/jest.config.mjs', enableFindRelatedTests: false },
    coverageAnalysis: 'perTest',
    // What runs once, as a module is loaded, no single test covers.
    ignoreStatic: true,
    concurrency: Number(values.processes),
    ignorePatterns: ['dist', '.data', '/docs/reference', '/docs/screenshots'],
    tempDirName: '.mutants',
    reporters: [],
  }).runMutationTest();
  const count = (...wanted) => results.filter(({ status }) => wanted.includes(status)).length;
  const [caught, missed] = [count('Killed', 'Timeout'), count('Survived', 'NoCoverage')];
  scores[file] = { date: new Date().toISOString().slice(0, 10), caught, missed };
  writeFileSync(recorded, `${JSON.stringify(Object.fromEntries(Object.entries(scores).sort(([a], [b]) => (a < b ? -1 : 1))), null, 2)}\n`);
  for (const { status, location, replacement } of results)
    if (status === 'Survived' || status === 'NoCoverage')
      console.log(`${file}:${location.start.line + 1}:${location.start.column + 1} ${status}: ${replacement}`);
  console.log(`${file}: ${caught} of ${caught + missed} caught`);
}

const sum = (name) => Object.values(scores).reduce((total, score) => total + score[name], 0);
console.log(`In all: ${sum('caught')} of ${sum('caught') + sum('missed')} caught, in ${Object.keys(scores).length} of ${all.length} files`);
