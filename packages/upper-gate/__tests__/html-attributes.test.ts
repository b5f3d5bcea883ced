import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import * as library from 'upper-gate';
import type { Node } from 'upper-gate';
import { fieldFromAttributes, toAttributes, type Attributes } from 'upper-gate/html';
import { runs } from './runs.ts';

const { boolean, check, choice, date, dateTime, email, file, fileType, files, group, integer, length, list, mustBeTrue, number, pattern, range } = library;
const { required, step, text, time, url, validate } = library;

/** What a real browser said of a control (see ../../../docs/html-agreement.md). */
interface Case {
  readonly id: string;
  readonly control: string;
  readonly attrs: Attributes;
  readonly native: Readonly<Record<string, boolean>>;
  readonly sanitized: string;
  readonly typed?: boolean;
}

const TYPES = ['text', 'search', 'tel', 'url', 'email', 'password', 'number', 'date', 'month', 'week', 'time', 'datetime-local'];
const cases = (JSON.parse(readFileSync(join(__dirname, 'data/html-constraints.json'), 'utf8')) as Case[]).filter(
  ({ control, attrs }) => control === 'textarea' || (control === 'input' && TYPES.includes(String(attrs['type']))),
);

/** The codes of a case: by the browser, and by a field of the same attributes. */
function compare({ attrs, control, native: flags, sanitized, typed }: Case): readonly [string, string] {
  // Natively only what a person typed is too long or too short; here it is whoever set the value.
  const compared = (code: string): boolean => typed === true || !code.startsWith('too');
  // The browser has flags also for controls that it does not validate.
  const native = attrs['readonly'] === undefined && attrs['disabled'] === undefined ? flags : {};
  const raw = native['badInput'] ? '\uFFFD' : sanitized;
  const { findings } = validate(group({ field: fieldFromAttributes(attrs, control as 'input', { trustPatterns: true, invalidPatterns: 'ignore' }) }), { field: raw });
  const codes = [...new Set(findings.map(({ code }) => code))];
  return [
    Object.keys(native)
      .filter((code) => native[code] && compared(code))
      .sort()
      .join(),
    codes.filter(compared).sort().join(),
  ];
}

test('at least 98 % of the cases have the codes of the browser; all others are in the list, with their reasons', () => {
  const differing = cases.filter((each) => {
    const [browser, ours] = compare(each);
    return browser !== ours;
  });
  const listed = [...readFileSync(join(__dirname, '../../../docs/html-agreement.md'), 'utf8').matchAll(/^\| .* `([\w.-]+)` +\|$/gm)].map(([, id]) => id);
  expect(differing.map(({ id }) => id).sort()).toEqual(listed.sort());
  expect(cases.length).toBe(899);
  expect(1 - differing.length / cases.length).toBeGreaterThanOrEqual(0.98);
});

test.each<[Attributes, string, string]>([
  [{ type: 'number', required: true, min: '0.5', max: '5.2', step: '0.1' }, '5.25', 'rangeOverflow stepMismatch'],
  [{ type: 'number', min: 'x', step: 'any' }, '1.234', ''],
  [{ type: 'email', multiple: true, 'aria-label': 'Crew' }, 'a@b,c', 'typeMismatch'],
  [{ pattern: '[a-z]{2}', maxlength: '2' }, 'abc', 'tooLong'],
  [{ pattern: '[\\w.\\-]+', minlength: '-1' }, '%', 'patternMismatch'],
  // Each address by itself: a pattern that takes commas does not reach over them.
  [{ type: 'email', multiple: true, pattern: 'a.*z' }, 'a@x, b@z', 'patternMismatch'],
  [{ type: 'email', multiple: true, pattern: 'a.*z' }, 'a@z, ab@yz', ''],
  [{ type: 'week', required: '' }, '275760-W00', 'badInput'],
  [{ type: 'datetime-local', required: '' }, '275760-09-13T00:01', 'badInput'],
  [{ type: 'nonsense', required: '' }, '', 'valueMissing'],
  ...['text', 'email', 'number', 'date'].map((type) => [{ type, required: '', min: '5', pattern: 'x', readonly: '' }, '', ''] as [Attributes, string, string]),
])('%j validates %j', (attributes, raw, codes) => {
  expect(
    validate(group({ field: fieldFromAttributes(attributes) }), { field: raw })
      .findings.map(({ code }) => code)
      .join(' '),
  ).toBe(codes);
});

const wrong = check(() => false);
const FIELDS: readonly (readonly [Node, Attributes])[] = [
  [text('T', required(), length({ min: 2, max: 4 }), length({ max: 3 })), { required: true, minlength: '2' }],
  [text({ label: 'T', trim: false }, length({ min: 2, max: 4 }), length({ max: 3 })), { minlength: '2', maxlength: '3' }],
  [text('T', length({ max: 3, count: 'characters' })), {}],
  [text('T', email({ dot: true })), { type: 'email' }],
  [text('T', email({ multiple: true })), { type: 'email', multiple: true }],
  [text('T', url({ schemes: ['https'] })), { type: 'url' }],
  [text('T', pattern(/^[ab]+$/)), { pattern: '\\s*(?:(?:[ab]+)\\s*)?' }],
  [text({ label: 'T', trim: false }, pattern(/^(a|b)$/)), { pattern: '(a|b)' }],
  // None of these is one pattern of the whole text as it is typed, valid under the v flag.
  [text('T', pattern(/a/)), {}],
  [text('T', pattern(/^a|b$/)), {}],
  [text('T', pattern(/^a$/i)), {}],
  [text('T', pattern(/^[\w.-]+$/)), {}],
  [text('T', pattern(/^a$/), pattern(/^.$/)), {}],
  [text({ label: 'T', case: 'upper' }, pattern(/^A$/)), {}],
  [text('T', required({ severity: 'warning' }), wrong), {}],
  [number('N', required(), range({ min: 0.5, max: 5.2 })), { type: 'number', required: true, min: '0.5', max: '5.2', step: 'any' }],
  [number('N', range({ min: 1, step: 0.5 })), { type: 'number', min: '1', step: '0.5' }],
  [number('N', range({ min: 1 }), step(2)), { type: 'number', min: '1', step: 'any' }],
  [number('N', step(2)), { type: 'number', step: '2' }],
  [number({ label: 'N', locale: 'de' }, range({ min: 1 })), {}],
  [integer('N', range({ min: 1, max: 12 })), { type: 'number', min: '1', max: '12' }],
  [integer('N', range({ min: 0.5 })), { type: 'number', min: '0.5', step: 'any' }],
  [date('D', range({ min: 'today', max: '2027-10-31' })), { type: 'date', max: '2027-10-31' }],
  [time('D', range({ min: '07:00', step: 900 })), { type: 'time', min: '07:00', step: '900' }],
  [dateTime('D'), { type: 'datetime-local', step: 'any' }],
  [boolean('B', mustBeTrue()), { type: 'checkbox', required: true }],
  [boolean('B', required({ severity: 'warning' })), { type: 'checkbox' }],
  [choice('C', ['a'], required()), { required: true }],
  [file('F', required(), fileType('.pdf')), { type: 'file', required: true, accept: '.pdf' }],
  [files('F'), { type: 'file', multiple: true }],
];

test.each(FIELDS.map(([field, attributes], i) => [i, attributes, field] as const))('field %i says %j in HTML', (_, attributes, field) => {
  expect(toAttributes(field)).toEqual(attributes);
});

test('attributes never refuse what their field accepts', () => {
  const raw = fc.oneof(
    fc.stringMatching(/^ ?[ab1.5-]{0,5} ?$/),
    fc.integer({ min: -3, max: 14 }).map(String),
    fc.double({ min: 0, max: 6, noNaN: true }).map((value) => value.toFixed(1)),
    fc.constantFrom('a@b.c', 'https://a.b', '2027-05-01', '2027-11-01', '07:15', '06:00', '2027-05-01T09:30:15'),
  );
  const judged = FIELDS.filter(([{ kind }]) => !['boolean', 'choice', 'file', 'files'].includes(kind));
  fc.assert(
    fc.property(fc.constantFrom(...judged), raw, ([field, attributes], value) => {
      if (!validate(group({ field }), { field: value }).ok) return;
      // A control drops white space around what is no free text.
      const kept = ['text', undefined].includes(attributes['type'] as undefined) ? value : value.trim();
      expect(validate(group({ field: fieldFromAttributes(attributes) }), { field: kept }).findings).toEqual([]);
    }),
    runs(2000),
  );
  expect(() => toAttributes(list('L', text('T')))).toThrow('takes a field. It got a list');
});
