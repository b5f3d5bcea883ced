// P12: what checking costs. Generates schemas of many fields and counts the compiler's instantiations.
import { execFileSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const folder = join(import.meta.dirname, '../node_modules/.types-bench');
const tsc = join(import.meta.dirname, '../node_modules/typescript/bin/tsc');
const KINDS = [
  (i) => `text('F${i}', required(), length({ max: ${i + 2} }))`,
  (i) => `number('F${i}', range({ min: ${i} }))`,
  (i) => `choice('F${i}', ['a', 'b'], required())`,
  (i) => `boolean('F${i}')`,
  (i) => `list('F${i}', group({ x: text('X', required()), y: integer('Y') }))`,
];

/** The instantiations of a schema of so many fields, with so many typed paths. */
function instantiations(fields, paths) {
  const declared = Array.from({ length: fields }, (_, i) => `  f${i}: ${KINDS[i % KINDS.length](i)},`);
  const used = Array.from({ length: paths }, (_, i) => {
    const at = (i * 7) % fields;
    return `gate.field('f${at}${at % KINDS.length === 4 ? '.0.x' : ''}').raw;`;
  });
  const source = [
    "import { appliesWhen, boolean, check, choice, createGate, fieldRules, group, integer, length, list, number, range, required, text } from 'upper-gate';",
    'const schema = group({',
    ...declared,
    '}).with(appliesWhen({ f1: (all) => all.f3 })).with(fieldRules({ f0: check((value, all) => value.length > (all.f1 ?? 0)) }));',
    'const gate = createGate(schema);',
    ...used,
  ].join('\n');
  const name = `s${fields}-${paths}`;
  writeFileSync(join(folder, `${name}.ts`), source);
  const config = {
    compilerOptions: {
      strict: true,
      noEmit: true,
      module: 'NodeNext',
      target: 'ES2022',
      lib: ['ES2023', 'DOM'],
      types: [],
      skipLibCheck: true,
    },
    files: [`${name}.ts`],
  };
  writeFileSync(join(folder, `${name}.json`), JSON.stringify(config));
  const out = execFileSync(process.execPath, [tsc, '-p', join(folder, `${name}.json`), '--extendedDiagnostics'], { encoding: 'utf8' });
  return Number(/Instantiations:\s+(\d+)/.exec(out)[1]);
}

mkdirSync(folder, { recursive: true });
const empty = instantiations(10, 0);
const table = [
  [250, 25],
  [500, 50],
  [1000, 0],
  [1000, 100],
  [2000, 200],
].map(([fields, paths]) => ({ fields, paths, instantiations: instantiations(fields, paths) }));
rmSync(folder, { recursive: true });
console.log(`10 fields, no path: ${empty} instantiations`);
for (const row of table) console.log(`${row.fields} fields, ${row.paths} typed paths: ${row.instantiations} instantiations`);
const [, half, , whole, double] = table.map((row) => row.instantiations);
console.log(
  `P12  1,000 fields and 100 typed paths: ${whole}, ${whole <= 60_000 ? 'within' : 'OVER'} 60,000; twice as many: ${(double / whole).toFixed(2)}x, half as many: ${(half / whole).toFixed(2)}x`,
);
process.exitCode = whole <= 60_000 && double / whole < 2.2 ? 0 : 1;
