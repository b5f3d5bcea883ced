import type { StandardSchemaV1 } from '@standard-schema/spec';
import { expect, test } from '@jest/globals';
import * as library from 'upper-gate';
import type { DataOf } from 'upper-gate';
import { asyncStandardSchemaRule, describeSchema, fromStandardSchema, standardSchemaRule, toStandardSchema } from 'upper-gate/interop';

const { groupRules, appliesWhen, fieldRules } = library;
const { asyncCheck, check, createGate, group, list, number, range, required, requiredWhen, sameAs, text, validate, validateAsync } = library;

/** A small library of somebody else's that speaks the shared interface. */
const foreign = <Out>(judge: (value: unknown) => StandardSchemaV1.Result<Out> | Promise<StandardSchemaV1.Result<Out>>): StandardSchemaV1<unknown, Out> => ({
  '~standard': { version: 1, vendor: 'somebody', validate: judge },
});
const tonnage = foreign<number>((value) => {
  const tonnes = Number(String(value).replace(/ t$/, ''));
  return value === undefined || Number.isNaN(tonnes) ? { issues: [{ message: 'No tonnage' }, { message: 'Write 12 t' }] } : { value: tonnes };
});
const stay = foreign((value) => {
  const { from, nights } = value as { from?: string; nights?: readonly number[] };
  const bad = nights?.findIndex((night) => night > 7) ?? -1;
  const issues = [
    ...(from === 'never' ? [{ message: 'Never is no day', path: ['from'] }] : []),
    ...(bad < 0 ? [] : [{ message: 'Too many nights', path: [{ key: 'nights' }, bad] }, { message: 'Not like this' }]),
  ];
  return issues.length > 0 ? { issues } : { value };
});
const late = foreign(async (value) => (value === 'Ghost' ? { issues: [{ message: 'Ghosts need no lock' }] } : { value }));

const passage = group({ tonnes: fromStandardSchema(tonnage, 'Tonnes'), from: text('From'), nights: list('Nights', number('Night')) }).with(groupRules(standardSchemaRule(stay)));
const told = ({ findings }: { findings: readonly { path: string; message: string }[] }) => findings.map(({ path, message }) => `${path}: ${message}`);

test('a foreign schema as a field: what it yields is the data, each issue a finding; in a live form too', () => {
  expect(validate(passage, { tonnes: '12 t' })).toMatchObject({ ok: true, data: { tonnes: 12 } });
  expect(told(validate(passage, { tonnes: 'heavy' }))).toEqual(['tonnes: No tonnage', 'tonnes: Write 12 t']);
  expect(told(validate(passage, {}))).toEqual(['tonnes: No tonnage', 'tonnes: Write 12 t']);
  ({}) as DataOf<typeof passage>['tonnes'] satisfies number;
  const gate = createGate(passage);
  expect(gate.state.errorCount).toBe(2);
  gate.field('tonnes').set('3 t');
  expect({ valid: gate.state.valid, data: gate.field('tonnes').data }).toEqual({ valid: true, data: 3 });
});

test('as a group, or the whole form: issues are on the fields that their paths name', () => {
  expect(told(validate(passage, { tonnes: '1 t', from: 'never', nights: [1, 9] }))).toEqual(['from: Never is no day', 'nights.1: Too many nights', ': Not like this']);
});

test('one that answers later is a rule that waits; as another it is an error', async () => {
  const form = group({ vessel: text('Vessel', asyncStandardSchemaRule(late)) });
  expect(told(await validateAsync(form, { vessel: 'Ghost' }))).toEqual(['vessel: Ghosts need no lock']);
  expect(await validateAsync(form, { vessel: 'Otter' })).toMatchObject({ ok: true });
  const faults: unknown[] = [];
  const wrong = validate(group({ vessel: text('Vessel', standardSchemaRule(late)) }), { vessel: 'x' }, { onFault: ({ error }) => faults.push(error) });
  expect({ ok: wrong.ok, code: wrong.findings[0]!.code, String: String(faults[0]) }).toEqual({
    ok: false,
    code: 'crashed',
    String: expect.stringMatching(/"somebody" validates asynchronously.*asyncStandardSchemaRule/),
  });
});

test('a schema as plain data: rules with their severities and functions, those between fields too', () => {
  function isWide(boat: { beam: number | undefined }): boolean {
    return (boat.beam ?? 0) > 4;
  }
  const boat = group({
    beam: number('Beam', required(), range({ max: 5 }, { severity: 'warning', code: 'tight', on: 'blur' })),
    tug: text(
      'Tug',
      check(function isATug(name) {
        return name !== 'x';
      }),
    ),
    again: number('Again'),
  })
    .with(appliesWhen({ tug: isWide }))
    .with(fieldRules({ again: sameAs('beam'), tug: requiredWhen(isWide) }));
  expect(describeSchema(boat)).toMatchObject({
    kind: 'group',
    appliesWhen: { tug: ['isWide'] },
    fieldRules: { again: [{ name: 'sameAs', params: { other: 'beam' } }], tug: [{ name: 'requiredWhen', function: 'isWide' }] },
    fields: {
      beam: {
        rules: [
          { name: 'required', severity: 'error' },
          { name: 'range', severity: 'warning', code: 'tight', on: 'blur' },
        ],
      },
      tug: { always: false, conditional: true, rules: [{ name: 'check', function: 'isATug' }] },
    },
  });
});

test('and back: errors are issues, at once or later; data comes through', async () => {
  const quick = toStandardSchema(group({ a: text('A', required()), rows: list('Rows', group({ n: number('N') })) }))['~standard'];
  expect(quick.validate({ a: ' x ', rows: [{ n: '1' }] })).toEqual({ value: { a: 'x', rows: [{ n: 1 }] } });
  expect(quick.validate({ rows: [{ n: 'x' }] })).toEqual({
    issues: [
      { message: expect.stringContaining('A'), path: ['a'] },
      { message: expect.stringContaining('N'), path: ['rows', 0, 'n'] },
    ],
  });
  const notX = asyncCheck(async (a: string) => a !== 'x');
  const slow = toStandardSchema(group({ a: text('A', notX) }))['~standard'].validate({ a: 'x' });
  expect(slow).toBeInstanceOf(Promise);
  expect(await slow).toEqual({ issues: [{ message: expect.stringContaining('A'), path: ['a'] }] });
});
