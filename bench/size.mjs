// What an application pays for the library, minified and compressed: each entry against its budget and against the figure
// that is recorded in sizes.json. Fails where an entry has grown by more than 1 %, or holds a feature that it does not use.
// `node bench/size.mjs --record` records today's figures: a visible decision, to be explained in its commit.
import { readFileSync, writeFileSync } from 'node:fs';
import { build } from 'esbuild';
import { gzip } from 'pako';

const MAIN = 'upper-gate';
const from = (names, module = MAIN) => `export { ${names} } from '${module}';`;
const all = (module) => `export * from '${module}';`;

const FIELDS = 'group, text, required, length';
const DECLARED = `${FIELDS}, choice, boolean, email`;
const CONTACT = `${DECLARED}, createGate`;
const ACROSS = 'list, variant, asyncCheck, fieldRules, check, sameAs, requiredWhen, after';

/** The modules of each feature that a bundle must not hold unless it uses the feature. */
const FEATURES = {
  'the live form': /\/gate\//,
  validating: /\/validate\//,
  lists: /\/schema\/list\//,
  variants: /\/schema\/variant\//,
  conditions: /\/clauses\/appliesWhen\//,
  'rules on fields of a group': /\/clauses\/fieldRules\//,
  'rules on groups': /\/clauses\/groupRules\.js/,
  'async rules': /\/(pendingChecks|asyncWalk|asyncRule|rules\/asyncCheck\/\w+)\.js/,
  'cross-field rules': /\/rules\/crossField\//,
  'rules that follow what they read': /\/evaluate\/(tracking|report|attachRule|walkRule|readable|follow)\.js/,
  dates: /\/schema\/(calendar|moments)\.js/,
  numbers: /\/schema\/number\.js/,
  choices: /\/schema\/choice\.js/,
  duplicates: /\/rules\/noDuplicates\//,
  drafts: /\/gate\/draft\.js/,
  'changes and saving': /\/saving\//,
  'a page': /\/showing\//,
  'rows on the page': /\/(dom\/rows|showing\/rowNews)\.js/,
  'opening parts of the page': /\/showing\/opening\.js/,
  'a posted page': /\/(gate\/posted|usePostedGate)\.js/,
  'the summary': /\/dom\/summary\.js/,
  'options on the page': /\/dom\/options\.js/,
  'limits that depend on other fields': /\/rules\/(depending|moving)\.js/,
  'facts from outside': /\/schema\/context\/live\.js/,
  'a trace': /\/trace\//,
  'a rehearsal': /\/testing\//,
  lint: /\/lint\//,
  'the inspector': /\/inspector\//,
  'help for developers': /\/development\/(on|places)\.js/,
  'rules and kinds of an author': /\/(defineRule|defineKind|definition)\.js/,
};
const ALL = Object.keys(FEATURES);

/** What a page uses, the most that it may cost in kB, and the features of all that it does use, if these are checked. */
const ENTRIES = [
  {
    id: 'S1',
    name: 'validate, fields with required and length',
    budget: 5.3,
    code: from(`${FIELDS}, validate`),
    uses: ['validating'],
  },
  { id: 'S1b', name: 'S1 with lists, variants, async and cross-field rules', budget: 14, code: from(`${FIELDS}, validate, ${ACROSS}`) },
  {
    id: 'S2a',
    name: 'a contact form without a page',
    budget: 13,
    code: from(CONTACT),
    uses: ['the live form', 'choices'],
  },
  {
    id: 'S2',
    name: 'a contact form with bindForm',
    budget: 20,
    code: from(CONTACT) + from('bindForm', 'upper-gate/dom'),
    uses: ['the live form', 'choices', 'a page'],
  },
  {
    id: 'S2b',
    name: 'S2 with rows, a variant, async and cross-field rules',
    budget: 33,
    code: from(`${CONTACT}, ${ACROSS}, noDuplicates`) + from('bindForm, templateRows, errorSummary', 'upper-gate/dom'),
  },
  ...[
    ['S3', 'in React', 'react'],
    ['S3v', 'in Vue', 'vue'],
    ['S3e', 'as a custom element', 'elements', 'defineForms', ', createGate'],
    ['S3sv', 'in Svelte', 'svelte'],
    ['S3so', 'in Solid', 'solid'],
    ['S3ng', 'in Angular', 'angular', 'GateDirective, injectGate, injectGateField'],
  ].map(([id, where, entry, names = 'useGate, useGateField', more = '']) => ({
    id,
    name: `a contact form ${where}`,
    budget: 20,
    code: from(DECLARED + more) + from(names, `upper-gate/${entry}`),
    uses: ['the live form', 'choices', 'a page'],
  })),
  {
    id: 'S4',
    name: 'everything in the main entry',
    code: all(MAIN),
    uses: ALL.filter(
      (feature) =>
        !feature.endsWith(' page') &&
        !['the summary', 'changes and saving', 'a trace', 'a rehearsal', 'lint', 'the inspector', 'help for developers'].includes(feature),
    ),
  },
  // What a clause costs where it is used: of a whole value, and in a form of plain fields; no budgets.
  ...['appliesWhen', 'fieldRules', 'groupRules'].flatMap((clause) => [
    { id: '+', name: `${clause}, in validate`, code: from(`${FIELDS}, validate, ${clause}`), base: from(`${FIELDS}, validate`) },
    { id: '+', name: clause, code: from(`${CONTACT}, ${clause}`), base: from(CONTACT) },
  ]),
  // What a feature costs where it is used, on top of a form of plain fields.
  ...Object.entries({
    list: 'list',
    variant: 'variant',
    'async rule': 'asyncCheck',
    'cross-field rules': 'fieldRules, check, sameAs, requiredWhen',
    noDuplicates: 'list, noDuplicates',
    draft: 'keepDraft',
    context: 'context',
    'dates and ranges': 'date, range',
  }).map(([name, names]) => ({ id: '+', name, code: from(`${CONTACT}, ${names}`), base: from(CONTACT) })),
  ...Object.entries({ changes: 'changesOf, toMergePatch', saving: 'keepSaved' }).map(([name, names]) => ({
    id: '+',
    name,
    code: from(CONTACT) + from(names, 'upper-gate/saving'),
    base: from(CONTACT),
  })),
  { id: '+', name: 'trace', code: from(CONTACT) + from('traceGate, explain', 'upper-gate/trace'), base: from(CONTACT) },
  { id: '+', name: 'inspector', code: from(CONTACT) + from('inspect', 'upper-gate/inspector'), base: from(CONTACT) },
  { id: '+', name: 'lint', code: from(CONTACT) + from('lint', 'upper-gate/lint'), base: from(CONTACT) },
  // What a feature of the page costs, on top of a bound form of plain fields.
  ...Object.entries({ 'rows on the page': 'templateRows', summary: 'errorSummary' }).map(([name, names]) => ({
    id: '+',
    name,
    code: from(CONTACT) + from(`bindForm, ${names}`, 'upper-gate/dom'),
    base: from(CONTACT) + from('bindForm', 'upper-gate/dom'),
  })),
  ...['React', 'Vue'].flatMap((framework) =>
    Object.entries({ rows: 'useGateList', summary: 'useGateSummary', action: 'usePostedGate' }).map(([feature, hook]) => ({
      id: '+',
      name: `${feature} in ${framework}`,
      code: from(DECLARED) + from(`useGate, useGateField, ${hook}`, `upper-gate/${framework.toLowerCase()}`),
      base: from(DECLARED) + from('useGate, useGateField', `upper-gate/${framework.toLowerCase()}`),
    })),
  ),
];

/** The features of a minified bundle, made as bundlers make what they ship, and its size in kB when compressed. */
async function bundle(code) {
  const { outputFiles, metafile } = await build({
    metafile: true,
    stdin: { contents: code, resolveDir: import.meta.dirname },
    bundle: true,
    minify: true,
    format: 'esm',
    conditions: ['production'],
    external: ['@angular/*', 'fast-check', 'react', 'solid-js', 'svelte', 'vue'],
    target: 'es2022',
    write: false,
  });
  const linked = Object.entries(Object.values(metafile.outputs)[0].inputs).flatMap(([path, { bytesInOutput }]) =>
    bytesInOutput > 0 ? [path] : [],
  );
  return {
    features: ALL.filter((feature) => linked.some((path) => FEATURES[feature].test(path))),
    size: gzip(outputFiles[0].contents, { level: 9 }).length / 1000,
  };
}

const file = new URL('sizes.json', import.meta.url);
const recorded = JSON.parse(readFileSync(file, 'utf8'));
const now = {};
let failed = false;
for (const { id, name, budget, code, base, uses } of ENTRIES) {
  const { features, size: whole } = await bundle(code);
  const size = Number((whole - (base ? (await bundle(base)).size : 0)).toFixed(3));
  const key = id === '+' ? name : id;
  now[key] = size;
  const strangers = uses ? features.filter((feature) => !uses.includes(feature)) : [];
  // Otherwise the check would pass though the modules have other names by now.
  const missing = uses ? uses.filter((feature) => !features.includes(feature)) : [];
  // Differences of two bundles are small: a few bytes are no growth.
  const grown = recorded[key] === undefined ? 0 : size - Math.max(recorded[key] * 1.01, recorded[key] + 0.02);
  const remarks = [
    budget !== undefined && (size > budget ? `over its budget of ${budget}` : `within ${budget}`),
    grown > 0 && `GROWN from ${recorded[key]}`,
    strangers.length > 0 && `HOLDS ${strangers.join(', ')}, which it does not use`,
    missing.length > 0 && `DOES NOT HOLD ${missing.join(', ')}: correct the patterns`,
  ].filter(Boolean);
  failed ||= grown > 0 || strangers.length + missing.length > 0;
  console.log(`${id.padEnd(4)} ${name.padEnd(54)} ${size.toFixed(2).padStart(6)} kB  ${remarks.join('; ')}`);
}
if (process.argv.includes('--record')) {
  writeFileSync(file, `${JSON.stringify(now, null, 2)}\n`);
  const { drawCharts } = await import('./charts.mjs');
  await drawCharts();
} else if (failed) {
  console.error(
    'A size has grown, or a bundle holds what it does not use. Correct that, or record the figures with the reason: node bench/size.mjs --record',
  );
  process.exitCode = 1;
}
