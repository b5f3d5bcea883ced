// P1: validating a whole value against a function written by hand that builds the same data and the same findings.
import assert from 'node:assert/strict';
import { group, length, list, number, range, required, text, validate } from 'upper-gate';
import { compare, report } from './rounds.mjs';

const labels = Array.from({ length: 20 }, (_, i) => `Field ${i}`);
const names = labels.map((_, i) => `f${i}`);
const isText = (i) => i % 2 === 0;

const flat = group(
  Object.fromEntries(
    names.map((name, i) => [
      name,
      isText(i) ? text(labels[i], required(), length({ min: 2, max: 20 })) : number(labels[i], required(), range({ min: 1, max: 100 })),
    ]),
  ),
);

const NUMBER = /^-?(?:\d+(?:\.\d+)?|\.\d+)(?:[eE][+-]?\d+)?$/;
const finding = (path, code, message, params) => ({ path, code, severity: 'error', message, params });
const LENGTH = { min: 2, max: 20 };
const RANGE = { min: 1, max: 100 };
const NONE = {};

/** The rules of a text, as one would write them by hand. */
function readText(raw, path, label, found) {
  if (typeof raw !== 'string')
    return void found.push(
      finding(
        path,
        raw == null ? 'valueMissing' : 'badInput',
        raw == null ? `${label} is required` : `Enter a valid value for ${label}`,
        NONE,
      ),
    );
  const value = raw.trim();
  if (value === '') return void found.push(finding(path, 'valueMissing', `${label} is required`, NONE));
  if (value.length < 2) found.push(finding(path, 'tooShort', `${label} must have at least 2 characters`, LENGTH));
  else if (value.length > 20) found.push(finding(path, 'tooLong', `${label} must have at most 20 characters`, LENGTH));
  return value;
}
function readNumber(raw, path, label, found) {
  let value = raw;
  if (typeof raw === 'string') {
    const typed = raw.trim();
    if (typed === '') return void found.push(finding(path, 'valueMissing', `${label} is required`, NONE));
    value = NUMBER.test(typed) ? Number(typed) : NaN;
  }
  if (typeof value !== 'number' || !Number.isFinite(value))
    return void found.push(finding(path, 'badInput', `Enter a number for ${label}, such as 3.5`, NONE));
  if (value < 1) found.push(finding(path, 'rangeUnderflow', `${label} must be at least 1`, { ...RANGE }));
  else if (value > 100) found.push(finding(path, 'rangeOverflow', `${label} must be at most 100`, { ...RANGE }));
  return value;
}
// Written out field by field, as a developer would: generated here only to keep this file short.
const byHand = new Function(
  'readText',
  'readNumber',
  `return (raw) => { const found = []; const data = { ${names.map((name, i) => `${name}: ${isText(i) ? 'readText' : 'readNumber'}(raw.${name}, '${name}', 'Field ${i}', found)`).join(', ')} };
  return found.length === 0 ? { ok: true, data, findings: found } : { ok: false, findings: found }; }`,
)(readText, readNumber);

const value = (bad) =>
  Object.fromEntries(names.map((name, i) => [name, isText(i) ? (bad(i) ? 'x' : `Otter ${i}`) : bad(i) ? '500' : String(i + 1)]));
const inputs = Array.from({ length: 50 }, (_, k) => ({ valid: value(() => false), bad: value((i) => (i + k) % 10 === 0) }));

const rows = list(
  'Rows',
  group({
    a: text('A', required(), length({ min: 2, max: 20 })),
    b: number('B', required(), range({ min: 1, max: 100 })),
    c: text('C', required(), length({ min: 2, max: 20 })),
    d: number('D', required(), range({ min: 1, max: 100 })),
    e: text('E', required(), length({ min: 2, max: 20 })),
  }),
);
const table = group({ rows });
const rowsByHand = (raw) => {
  const found = [];
  const data = {
    rows: raw.rows.map((row, i) => {
      const before = found.length;
      const one = {
        a: readText(row.a, 'a', 'A', found),
        b: readNumber(row.b, 'b', 'B', found),
        c: readText(row.c, 'c', 'C', found),
        d: readNumber(row.d, 'd', 'D', found),
        e: readText(row.e, 'e', 'E', found),
      };
      for (let f = before; f < found.length; f += 1) found[f].path = `rows.${i}.${found[f].path}`;
      return one;
    }),
  };
  return found.length === 0 ? { ok: true, data, findings: found } : { ok: false, findings: found };
};
const tableOf = (bad) => ({
  rows: Array.from({ length: 1000 }, (_, i) => ({ a: bad(i) ? 'x' : 'Otter', b: '12', c: 'Heron', d: bad(i + 5) ? '0' : '7', e: 'Teal' })),
});
const [goodTable, badTable] = [tableOf(() => false), tableOf((i) => i % 4 === 0)];

for (const { valid, bad } of inputs) {
  assert.deepEqual(validate(flat, valid), byHand(valid));
  assert.deepEqual(
    validate(flat, bad).findings.map(({ path, code, message }) => [path, code, message]),
    byHand(bad).findings.map(({ path, code, message }) => [path, code, message]),
  );
}
assert.deepEqual(validate(table, goodTable), rowsByHand(goodTable));
assert.deepEqual(
  validate(table, badTable).findings.map(({ path, code, message }) => [path, code, message]),
  rowsByHand(badTable).findings.map(({ path, code, message }) => [path, code, message]),
);

const against = (schema, hand, pick) =>
  compare(
    (i) => validate(schema, pick(i)),
    (i) => hand(pick(i)),
  );
report(
  'P1',
  'validate, 20 flat fields, valid, against by hand',
  against(flat, byHand, (i) => inputs[i % 50].valid),
  3.5,
);
report(
  'P1',
  'validate, 20 flat fields, 10 % bad, against by hand',
  against(flat, byHand, (i) => inputs[i % 50].bad),
  4.3,
);
report(
  'P1',
  'validate, 1,000 rows of 5 fields, valid, against by hand',
  against(table, rowsByHand, () => goodTable),
  3.5,
);
report(
  'P1',
  'validate, 1,000 rows of 5 fields, 10 % bad, against by hand',
  against(table, rowsByHand, () => badTable),
  4.3,
);
