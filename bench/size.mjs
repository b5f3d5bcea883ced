// What an application pays: minified and gzipped sizes of typical uses, against the budgets. Fails above a budget.
import { gzipSync } from 'node:zlib';
import { build } from 'esbuild';

/** What a page uses, and the most that it may cost, in kB. */
const ENTRIES = [
  {
    name: 'S1  group, text, required, length, validate',
    budget: 3,
    code: `export { group, text, required, length, validate } from 'upper-gate';`,
  },
  {
    name: 'S2  contact form: gate, bindForm',
    budget: 9,
    code: `export { group, text, choice, boolean, required, length, email, createGate } from 'upper-gate'; export { bindForm } from 'upper-gate/dom';`,
  },
  {
    name: 'S3  the React binding, on top of the gate',
    budget: 1.5,
    code: `export * from 'upper-gate'; export * from 'upper-gate/react';`,
    without: `export * from 'upper-gate';`,
  },
  { name: 'S4  everything in the main entry', budget: 16, code: `export * from 'upper-gate';` },
];

/** The minified and gzipped size of some code, in kB. */
async function sizeOf(code) {
  const { outputFiles } = await build({
    stdin: { contents: code, resolveDir: import.meta.dirname },
    bundle: true,
    minify: true,
    format: 'esm',
    conditions: ['production'], // as bundlers set it for what they ship
    external: ['react', 'vue'],
    target: 'es2022',
    write: false,
  });
  return gzipSync(outputFiles[0].contents, { level: 9 }).length / 1000;
}

let over = false;
for (const { name, budget, code, without } of ENTRIES) {
  const size = (await sizeOf(code)) - (without ? await sizeOf(without) : 0);
  over ||= size > budget;
  console.log(
    `${name.padEnd(48)} ${size.toFixed(2).padStart(6)} kB  of ${budget.toFixed(1).padStart(4)} kB${size > budget ? '  over' : ''}`,
  );
}
process.exitCode = over ? 1 : 0;
