// What a production build, and a second copy of the library, must not change: a verdict.

import { describe, expect, test } from '@jest/globals';
import * as ours from 'upper-gate';
import { toAttributes } from 'upper-gate/html';
import * as interop from 'upper-gate/interop';
import { loadCopy } from './copies.ts';

const production = loadCopy({ production: true });

describe.each([
  ['development', { ...ours, ...interop }],
  ['production', production],
])('%s refuses what would let a value in', (name, library) => {
  const { fieldRules, appliesWhen, asyncCheck, check, choice, createGate, fileSize, fileType, group, ipAddress, keepDraft, length, oneOf, pattern } = library;
  const { nestNames, range, required, sameAs, step, text, url, validate, variant } = library;
  const never = asyncCheck(async () => false);
  const misuses: [string, () => unknown, RegExp?][] = [
    ['async rules in validate()', () => validate(group({ a: text('A', never) }), { a: 'x' })],
    ['a name with a dot', () => group({ 'a.b': text('A') }), /"a.b" cannot be the name/],
    ['a hostile name', () => group({ ['__proto__']: text('A') })],
    ['a field that is none', () => group({ a: 'text' as never }), /"a" is not a field/],
    ['a rule that is none', () => text('A', (() => false) as never)],
    ['a rule between fields that is none', () => group({ a: text('A') }).with(fieldRules({ a: (() => false) as never }))],
    ['a rule on no field', () => group({ a: text('A') }).with(fieldRules({ b: required() } as never)), /fieldRules\(\) names the field "b"/],
    ['a condition on no field', () => group({ a: text('A') }).with(appliesWhen({ b: () => true } as never))],
    ['the same as no field', () => group({ a: text('A') }).with(fieldRules({ a: sameAs('z' as never) })), /sameAs\(\) names the field \"z\"/],
    ['a length that is no number', () => length({ max: NaN })],
    ['a range that is no number', () => range({ max: NaN })],
    ['a range of no date', () => range({ max: '2027-13-01' })],
    ['two limits at one end', () => range({ min: 1, above: 1 })],
    ['limits the wrong way round', () => range({ min: 2, max: 1 }), /min not above max/],
    ['a length of 1.5', () => length({ max: 1.5 }), /whole numbers/],
    ['a step of nothing', () => step(NaN)],
    ['a step from no number', () => step(2, NaN)],
    ['a file size that is no number', () => fileSize({ max: NaN })],
    ['a file size without its key', () => fileSize(5 as never), /fileSize\(\{ max \}\) takes a number from 0/],
    ['types of files that are none', () => fileType(undefined as never)],
    ['schemes as a text, of which `http` would be a part', () => url({ schemes: 'https' as never }), /array of schemes/],
    ['options as a text, of which each letter would be one', () => oneOf('abc' as never), /array of values/],
    ['a version of IP that does not exist', () => ipAddress({ version: 5 as never })],
    ['limits of names that are none', () => nestNames([], {} as never)],
    ['a pattern that is none', () => pattern('^x$' as never)],
    ['a severity that does not exist', () => required({ severity: 'Error' as never })],
    ['a form that is no group', () => createGate(text('A'))],
    ['a path that the form lacks', () => createGate(group({ a: text('A') })).field('b' as never), /has no field "b". Its fields: a\./],
    ['a list that is none', () => createGate(group({ a: text('A') })).list('a' as never), /"a" is not a list: its kind is text/],
    ['a draft of what is no gate', () => keepDraft({} as never, { storage: {} as never, key: 'k' }), /not a gate/],
    ['a case that is no group', () => variant('V', 'v', { a: text('A') })],
    ['a schema that is none', () => validate({ kind: 'group' } as never, {})],
  ];
  test.each(misuses.map(([what, act, message = /\w/]) => [what, act, message] as const))('%s', (_, act, message) => {
    expect(act).toThrow(TypeError);
    expect(act).toThrow(name === 'production' ? /^Upper Gate: wrong use/ : message);
  });

  if (name === 'development')
    test.each<[string, () => unknown, RegExp]>([
      ['no label', () => text(undefined as never), /takes a label first.*It got undefined/],
      ['an empty label', () => text(''), /needs a label.*It got ""/],
      ['a rule that is not called', () => text('Vessel', required as never), /a rule of "Vessel" is not one\. It got the function required; call it/],
      ['choices that are no array', () => choice('A', 'b' as never), /array of its values.*It got "b"/],
      ['no function', () => check(undefined as never), /check\(\) takes a function of the values\. It got undefined/],
      ['no limits', () => length(undefined as never), /length\(\) takes limits/],
      ['no choices', () => choice('A', []), /at least one value/],
    ])('and, of what has no effect on a verdict, %s', (_, act, message) => expect(act).toThrow(message));

  test('a severity that does not exist, returned by a rule, blocks', () => {
    const odd = check(() => ({ message: 'no', severity: 'Error' as never }));
    const schema = group({ a: text('A', odd) });
    const result = validate(schema, { a: 'x' });
    expect({ ok: result.ok, codes: result.findings.map(({ code }) => code) }).toEqual({ ok: false, codes: ['crashed'] });
  });
});

describe('two copies of the library', () => {
  const { createGate, custom, fieldRules, group, list, text, validate } = ours;

  test('of one version fit', () => {
    const other = loadCopy();
    const position = custom('Position', { read: (raw) => (raw === 'km 1' ? 1 : other.unreadable('As on the posts')) });
    expect(validate(group({ position }), { position: 'x' }).findings).toMatchObject([{ path: 'position', code: 'badInput', message: 'As on the posts' }]);
    const theirs = other
      .group({ a: other.text('A', other.required()), b: other.text('B'), rows: other.list('Rows', other.group({ n: other.integer('N') })) })
      .with(other.appliesWhen({ b: (all) => all.a === 'x' }))
      .with(fieldRules({ b: ours.requiredWhen((all) => all.a === 'x') }));
    const form = group({ theirs, ours: list('Ours', theirs) });
    const raw = { theirs: { a: 'x', rows: [{ n: '1.5' }] }, ours: [{}] };
    const gate = createGate(form as never, { initial: raw as never });
    const codes = (findings: readonly { path: string; code: string }[]) => findings.map(({ path, code }) => `${path} ${code}`);
    expect(codes(validate(form, raw).findings)).toEqual(['theirs.b valueMissing', 'theirs.rows.0.n badInput', 'ours.0.a valueMissing']);
    expect(codes(gate.findings)).toEqual(codes(validate(form, raw).findings));
    expect(toAttributes(theirs.fields.a as never)).toEqual({ required: true });
    expect(interop.describeSchema(form as never).fields).toMatchObject({ theirs: { kind: 'group' }, ours: { kind: 'list' } });
  });

  test.each<[string, (other: typeof ours) => unknown]>([
    ['a field', (other) => group({ a: other.text('A') as never })],
    ['a rule', (other) => text('A', other.required() as never)],
    ['a rule between fields', (other) => group({ a: text('A') }).with(fieldRules({ a: other.required() }))],
    ['a clause', (other) => group({ a: text('A') }).with(other.fieldRules({ a: ours.required() }))],
    ['the rows of a list', (other) => list('L', other.text('A') as never)],
    ['a form', (other) => createGate(other.group({}) as never)],
    ['what is validated by', (other) => validate(other.group({}) as never, {})],
    ['what is described', (other) => interop.describeSchema(other.group({}))],
    ['what is written as HTML', (other) => toAttributes(other.text('A'))],
  ])('of two versions say so: %s', (_, act) => {
    const other = loadCopy({ edit: (code) => code.replace(/\bVERSION = 2\b/, 'VERSION = 0') });
    expect(() => act(other)).toThrow(/another version of upper-gate.*version 0.*have 2.*npm ls upper-gate/);
  });

  test('what the other version cannot read is no data', () => {
    const other = loadCopy({ edit: (code) => code.replace(/\bVERSION = 2\b/, 'VERSION = 0') });
    const field = custom('A', { read: () => other.unreadable('no') });
    expect(validate(group({ field }), { field: 'x' })).toMatchObject({ ok: false, findings: [{ code: 'badInput' }] });
  });
});
