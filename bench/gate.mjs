// P2 to P8 and P17: what an edit, a row, a submit, and a form cost in a live form.
import assert from 'node:assert/strict';
import { check, createGate, fieldRules, group, length, list, noDuplicates, number, range, required, text, validate } from 'upper-gate';
import { compare, compared, report } from './rounds.mjs';

const fieldsOf = (size) =>
  Object.fromEntries(
    Array.from({ length: size }, (_, i) => [
      `f${i}`,
      i % 2 === 0 ? text(`F${i}`, required(), length({ min: 2, max: 20 })) : number(`F${i}`, range({ min: 0, max: 100 })),
    ]),
  );
let runs = 0;
/** A form of so many fields, in which one rule reads the first. */
const formOf = (size) =>
  group(fieldsOf(size)).with(
    fieldRules({
      f1: check((value, all) => {
        runs += 1;
        return all.f0 !== 'never';
      }),
    }),
  );
const valueOf = (size) => Object.fromEntries(Array.from({ length: size }, (_, i) => [`f${i}`, i % 2 === 0 ? 'Otter' : '12']));
const gateOf = (size) => createGate(formOf(size), { initial: valueOf(size) });

const words = ['Otter', 'Heron'];
const editor = (gate) => {
  const field = gate.field('f0');
  return (i) => field.set(words[i % 2]);
};
const [small, middle, large] = [10, 1000, 10_000].map(gateOf);
report('P2', 'an edit in a form of 1,000 fields, against one of 10', compare(editor(middle), editor(small)), 1.2);
report('P2', 'an edit in a form of 10,000 fields, against one of 10', compare(editor(large), editor(small)), 1.2);

runs = 0;
large.field('f0').set('Teal');
large.field('f2').set('Teal');
assert.equal(runs, 1);
console.log('P3   rules between fields run by two edits, one of which they read:                      1');

const schema = formOf(10_000);
const values = valueOf(10_000);
report(
  'P4',
  'validating 10,000 fields anew, against an edit of one (wanted: at least 2,000x)',
  compare(() => validate(schema, values), editor(large)),
);

const crew = (size) =>
  createGate(group({ crew: list('Crew', group({ name: text('Name', required()) }), noDuplicates({ by: 'name' })) }), {
    initial: { crew: Array.from({ length: size }, (_, i) => ({ name: `Name ${i}` })) },
  });
const typist = (gate) => {
  const field = gate.field('crew.7.name');
  return (i) => field.set(words[i % 2]);
};
const [few, many] = [100, 10_000].map(crew);
report('P5', 'noDuplicates: an edit at 10,000 rows, against 100', compare(typist(many), typist(few), { rounds: 9 }), 1.5);

const rows = (size) =>
  createGate(group({ rows: list('Rows', group({ name: text('Name', required()) })) }), {
    initial: { rows: Array.from({ length: size }, (_, i) => ({ name: `Name ${i}` })) },
  }).list('rows');
const shuffle = (live) => () => {
  live.add({ name: 'New' }, 0);
  live.remove(0);
};
report(
  'P6',
  'a row added and removed at the head of 10,000, against 100',
  compare(shuffle(rows(10_000)), shuffle(rows(100)), { rounds: 9 }),
  4,
);
report(
  'P7',
  'createGate with 10,000 fields, against structuredClone of its values',
  compare(
    () => createGate(schema, { initial: values }),
    () => structuredClone(values),
    { rounds: 9 },
  ),
  6,
);

globalThis.gc?.();
const before = process.memoryUsage().heapUsed;
const kept = createGate(schema, { initial: values });
globalThis.gc?.();
const perField = (process.memoryUsage().heapUsed - before) / 10_000;
console.log(
  `P8   memory of a gate at rest, per field: ${perField.toFixed(0)} bytes, ${perField <= 400 ? 'within' : 'OVER'} 400${globalThis.gc ? '' : ' (run with --expose-gc)'}`,
);
assert.ok(kept.state.valid);

/** As a developer would: each field, its rules in a row, an object of what is right. */
function byHand(raw) {
  const findings = [];
  const data = {};
  for (const key of Object.keys(raw)) {
    const value = raw[key].trim();
    if (key === 'f1' && raw.f0 === 'never') findings.push({ path: key, code: 'customError' });
    if (Number(key.slice(1)) % 2 === 0) {
      if (value === '') findings.push({ path: key, code: 'valueMissing' });
      else if (value.length < 2) findings.push({ path: key, code: 'tooShort' });
      else if (value.length > 20) findings.push({ path: key, code: 'tooLong' });
      data[key] = value;
    } else {
      const number = Number(value);
      if (!(number >= 0 && number <= 100)) findings.push({ path: key, code: 'rangeOverflow' });
      data[key] = number;
    }
  }
  return findings.length === 0 ? data : undefined;
}
const sender = createGate(schema, { initial: values, submit: () => undefined });
await sender.submit();
const [again, hand] = [[], []];
for (let round = 0; round < 15; round += 1) {
  const start = process.hrtime.bigint();
  await sender.submit();
  const middle = process.hrtime.bigint();
  byHand(values);
  again.push(Number(middle - start) / 1000);
  hand.push(Number(process.hrtime.bigint() - middle) / 1000);
}
report('P17', 'a second submit of 10,000 fields, against validating by hand', compared([again, hand]), 5);
