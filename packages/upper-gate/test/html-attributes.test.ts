import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';
import { group, validate } from 'upper-gate';
import { fieldFromAttributes, type Attributes } from 'upper-gate/html';

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
function compare({ attrs, control, native, sanitized, typed }: Case): readonly [string, string] {
  // Natively only what a person typed is too long or too short; here it is whoever set the value.
  const compared = (code: string): boolean => typed === true || !code.startsWith('too');
  const raw = native['badInput'] ? '\uFFFD' : sanitized;
  const { findings } = validate(group({ field: fieldFromAttributes(attrs, control as 'input') }), { field: raw });
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
  const listed = [...readFileSync(join(__dirname, '../../../docs/html-agreement.md'), 'utf8').matchAll(/^\| `([\w.-]+)`/gm)].map(([, id]) => id);
  expect(differing.map(({ id }) => id).sort()).toEqual(listed.sort());
  expect(cases.length).toBe(899);
  expect(1 - differing.length / cases.length).toBeGreaterThanOrEqual(0.98);
});

test.each<[Attributes, string, string]>([
  [{ type: 'number', required: true, min: '0.5', max: '5.2', step: '0.1' }, '5.25', 'rangeOverflow stepMismatch'],
  [{ type: 'number', min: 'x', step: 'any' }, '1.234', ''],
  [{ type: 'email', multiple: true, 'aria-label': 'Crew' }, 'a@b,c', 'typeMismatch'],
  [{ pattern: '[a-z]{2}', maxlength: '2' }, 'abc', 'tooLong patternMismatch'],
  [{ pattern: '[\\w.-]+', minlength: '-1' }, '%', ''],
  [{ type: 'nonsense', required: '' }, '', 'valueMissing'],
])('%j judges %j', (attributes, raw, codes) => {
  expect(
    validate(group({ field: fieldFromAttributes(attributes) }), { field: raw })
      .findings.map(({ code }) => code)
      .join(' '),
  ).toBe(codes);
});
