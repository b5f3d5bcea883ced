import type { StandardSchemaV1 } from '@standard-schema/spec';
import { expect, jest, test } from '@jest/globals';
import * as library from 'upper-gate';
import type { DataOf } from 'upper-gate';
import { asyncStandardSchemaRule, describeSchema, fromStandardSchema, groupFor, standardSchemaRule, toStandardSchema } from 'upper-gate/interop';

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

interface Berth {
  vessel: string;
  tug?: string | undefined;
  nights: number;
  crew: { name: string; age?: number | undefined }[];
}
/** What it was given last. */
let given = '';
/** As a schema of a whole form: it says what every value must be, in what it is given. */
const berth: StandardSchemaV1<Berth> = {
  '~standard': {
    version: 1,
    vendor: 'somebody',
    validate(value) {
      given = JSON.stringify(value);
      const { vessel, tug, nights = 0, crew = [], engine = {} } = value as Partial<Berth> & { engine?: { tank?: number } };
      const issue = (is: boolean, message: string, ...path: (string | number)[]) => (is ? [{ message, path }] : []);
      const issues = [
        ...issue(vessel === undefined, 'Expected a string', 'vessel'),
        ...issue((vessel ?? 'Otter').length < 3, 'Three letters', 'vessel'),
        ...issue(nights > 2 && !tug, tug === '' ? 'Which tug?' : 'Expected a tug', 'tug'),
        ...crew.flatMap(({ name }, row) => issue(!name || name === 'X', 'Who?', 'crew', row, 'name', 'given')),
        ...issue(engine.tank === 9, 'Too full', 'engine', 'tank'),
        ...issue(engine.tank === 8, 'No mast', 'mast'),
      ];
      return issues.length > 0 ? { issues } : { value: value as Berth };
    },
  },
};

test('a schema of the whole form runs on what can be read; its issues give way to those of the fields; a live form says the same', () => {
  const fields = { vessel: text('Vessel', required()), tug: text('Tug'), nights: number('Nights', required()) };
  const crew = list('Crew', group({ name: text('Name', required()), age: number('Age') }));
  const engine = library.variant('Kind', 'kind', { motor: group({ tank: number('Tank') }), sail: group({}) });
  const form = group({ ...fields, crew, engine }).with(appliesWhen({ tug: (boat) => boat.nights > 2 }));
  const whole = form.with(groupRules(standardSchemaRule(berth, { empty: 'text' })));
  // Silent about nothing that is there; about what is missing, the field itself speaks. What does not apply is not there.
  const cases = [
    [
      { crew: [{ name: 'X', age: 'old' }] },
      '{"vessel":"","crew":[{"name":"X"}]}',
      ['vessel: Vessel is required', 'nights: Nights is required', 'crew.0.name: Who?', 'crew.0.age: Enter a number for Age, such as 3.5'],
    ],
    [{ vessel: 'Ot', nights: '1', crew: [{}] }, '{"vessel":"Ot","nights":1,"crew":[{"name":""}]}', ['vessel: Three letters', 'crew.0.name: Name is required']],
    [
      { vessel: 'Ott', nights: '3', crew: [], engine: { kind: 'motor', tank: '9' } },
      '{"vessel":"Ott","tug":"","nights":3,"crew":[],"engine":{"kind":"motor","tank":9}}',
      ['tug: Which tug?', 'engine.tank: Too full'],
    ],
  ] as const;
  for (const [value, handed, wanted] of cases) {
    const gate = createGate(whole, { initial: value as never });
    expect([given, told(gate)]).toEqual([handed, wanted]);
    expect([told(validate(whole, value)), given]).toEqual([wanted, handed]);
  }
  const gate = createGate(whole, { initial: { vessel: 'Otter', nights: 1, crew: [], engine: { kind: 'sail' } } });
  expect([gate.state.valid, given]).toEqual([true, '{"vessel":"Otter","nights":1,"crew":[],"engine":{"kind":"sail"}}']);
  gate.field('vessel').set('O');
  gate.field('nights').set('many');
  expect(told(gate)).toEqual(['vessel: Three letters', 'nights: Enter a number for Nights, such as 3.5']);
  // What a server says comes first, and goes with the next edit.
  gate.addFindings([{ path: 'vessel', code: 'taken', message: 'Taken' }]);
  expect(told(gate)[0]).toBe('vessel: Taken');
  gate.field('vessel').set('Ot');
  expect(told(gate)[0]).toBe('vessel: Three letters');
  // Without being asked for, an empty text is nothing.
  expect(told(validate(group({ ...fields, vessel: text('Vessel') }).with(groupRules(standardSchemaRule(berth as StandardSchemaV1))), { nights: 3 }))).toContain(
    'tug: Expected a tug',
  );
});

test('names and types of its input are those of the group, or it does not compile; an issue without a field is on the whole, with a warning', () => {
  const crew = list('Crew', group({ name: text('Name'), age: number('Age') }));
  const form = groupFor(berth, { vessel: text('Vessel', required()), nights: number('Nights'), crew });
  const warned = jest.spyOn(console, 'warn').mockReturnValue(undefined);
  expect(told(validate(form, { nights: '3', crew: [{ name: 'X' }] }))).toEqual(['vessel: Vessel is required', 'crew.0.name: Who?', 'tug: Expected a tug']);
  try {
    const gate = createGate(form, { initial: { vessel: 'Otter', nights: 3 } });
    expect(gate.root.findings.map(({ message }) => message)).toEqual(['Expected a tug']);
    expect(warned.mock.calls).toEqual([[expect.stringMatching(/The schema of "somebody" has an issue on "tug", but "Form" has no field of that name.*issue-without-field/)]]);
  } finally {
    warned.mockRestore();
  }
  const wrong = () => [
    // @ts-expect-error: the schema takes a text
    groupFor(berth, { vessel: number('Vessel'), nights: number('Nights'), crew }),
    // @ts-expect-error: it has no such name
    groupFor(berth, { vessel: text('Vessel'), nights: number('Nights'), crew, mast: text('Mast') }),
    // @ts-expect-error: "nights" is missing
    groupFor(berth, { vessel: text('Vessel'), crew }),
    // @ts-expect-error: the group has no vessel
    group({ vesel: text('Vessel'), nights: number('Nights'), crew }).with(groupRules(standardSchemaRule(berth))),
    // @ts-expect-error: nor its rows a name
    group({ vessel: text('Vessel'), nights: number('Nights'), crew: list('Crew', group({ nam: text('Name') })) }).with(groupRules(asyncStandardSchemaRule(berth))),
  ];
  expect(wrong).not.toBeNull();
});

test('one that answers later is a rule that waits; as another it is an error', async () => {
  const form = group({ vessel: text('Vessel', asyncStandardSchemaRule(late)) });
  expect(told(await validateAsync(form, { vessel: 'Ghost' }))).toEqual(['vessel: Ghosts need no lock']);
  expect(await validateAsync(form, { vessel: 'Otter' })).toMatchObject({ ok: true });
  const faults: unknown[] = [];
  // (Not all promises are of the class of this realm.)
  for (const schema of [late, foreign(() => ({ then: () => undefined }) as never)]) {
    const wrong = validate(group({ vessel: text('Vessel', standardSchemaRule(schema)) }), { vessel: 'x' }, { onFault: ({ error }) => faults.push(error) });
    expect([wrong.ok, wrong.findings[0]?.code]).toEqual([false, 'crashed']);
  }
  expect(faults.map(String)).toEqual(Array(2).fill(expect.stringMatching(/"somebody" validates asynchronously.*asyncStandardSchemaRule/)));
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
