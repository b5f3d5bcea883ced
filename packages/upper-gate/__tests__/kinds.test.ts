import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import * as library from 'upper-gate';
import type { Node } from 'upper-gate';
import { fileOf } from './fileOf.ts';
import { runs } from './runs.ts';

const { fieldRules, appliesWhen, anyJson, boolean, choices, color, createGate, custom, date, dateTime, file, files, group } = library;
const { integer, interval, list, month, number, text, time, unreadable, validate, variant, week } = library;
const { after, before, check, differsFrom, fileSize, fileType, ipAddress, length, mustBeTrue, noDuplicates, range, required, step, url } = library;

const NOW = () => new Date(2027, 4, 1, 12); // Saturday, May 1, 2027
/** The codes of one field, with paths inside it; or its data. */
const judge = (field: Node, raw: unknown): unknown => {
  const judged = validate(group({ f: field }), { f: raw }, { now: NOW });
  return judged.ok ? judged.data.f : judged.findings.map(({ path, code }) => `${path.slice(2)}${path.length > 2 ? ':' : ''}${code}`).join(' ');
};

const DAY = date('F');
const de = number({ label: 'F', locale: 'de' });
const fr = number({ label: 'F', locale: 'fr' });
const side = choices('F', ['port', 'starboard']);
const pdf = fileOf('a.PDF', 10, 'application/pdf');
const png = fileOf('b', 30, 'image/png');
const cargo = variant('Cargo', 'cargo', { none: group({}), goods: group({ tonnes: number('T', required(), range({ max: 5 })) }) }, required());

const oops = () => {
  throw new Error('oops');
};

test.each<[string, Node, unknown, unknown]>([
  ['number: too large', number('F'), '1e999', 'badInput'],
  ['number: German', de, '1.234,5', 1234.5],
  ['number: German, a dot for a comma is not misread', de, '1.5', 'badInput'],
  ['number: German, wrong groups', de, '12.34', 'badInput'],
  ['number: French, with a plain blank', fr, '1 234,5', 1234.5],
  ['number: decimal sign', number({ label: 'F', decimal: ',' }), '-2,5', -2.5],
  ['integer: huge digits', integer('F'), '9'.repeat(400), 'badInput'],
  ['integer: in exponents', integer('F'), '1e3', 1000],
  ['number: Arabic digits', number({ label: 'F', locale: 'ar-EG' }), '١٬٢٣٤٫٥', 1234.5],
  ['date: German', date({ label: 'F', locale: 'de' }), '12.5.2027', '2027-05-12'],
  ['date: American, with other signs', date({ label: 'F', locale: 'en-US' }), '05-12-2027', '2027-05-12'],
  ['date: Arabic digits and marks', date({ label: 'F', locale: 'ar-EG' }), '١٢‏/٥‏/٢٠٢٧', '2027-05-12'],
  ['date: ISO in every language', date({ label: 'F', locale: 'de' }), '2027-05-12', '2027-05-12'],
  ['date: a year of two digits is any of several', date({ label: 'F', locale: 'de' }), '12.05.27', 'badInput'],
  ['date: German, no leap day', date({ label: 'F', locale: 'de' }), '29.02.2100', 'badInput'],
  ['date: no leap day in 2100', DAY, '2100-02-29', 'badInput'],
  ['date: beyond', DAY, '275760-09-14', 'badInput'],
  ['dateTime: with a blank', dateTime('F'), '2027-05-01 09:30', '2027-05-01T09:30'],
  ['dateTime: a zone is none of it', dateTime('F'), '2027-05-01T09:30Z', 'badInput'],
  ['color', color('F'), '#14505C', '#14505c'],
  ['anyJson: text', anyJson('F'), ' {"a": [1, null]} ', { a: [1, null] }],
  ['anyJson: the value null is a value', anyJson('F', required()), 'null', null],
  ['anyJson: a text that is none', anyJson('F'), 'berth 3', 'badInput'],
  ['anyJson: keys are data, whatever they are called', anyJson('F'), '[{"__proto__": {}}]', [JSON.parse('{"__proto__": {}}')]],
  ['anyJson: an object of a class', anyJson('F'), new Date(), 'badInput'],
  ['anyJson: half a pair of surrogates', anyJson('F'), '["\\ud83d"]', 'badInput'],
  ['anyJson: too deep', anyJson('F'), '['.repeat(102) + ']'.repeat(102), 'badInput'],
  ['anyJson: no value of JSON', anyJson('F'), { a: [1n] }, 'badInput'],
  ['anyJson: none', anyJson('F'), null, undefined],
  ['choices: one alone', side, 'port', ['port']],
  ['choices: none', side, undefined, []],
  ['choices: required', choices('F', ['a'], required()), [], 'valueMissing'],
  ['choices: too few', choices('F', ['a', 'b'], length({ min: 2 })), ['a'], 'tooFew'],
  ['choices: length validates none chosen', choices('F', ['a', 'b'], length({ min: 2 })), [], 'tooFew'],
  ['choices: but not beside required', choices('F', ['a', 'b'], required(), length({ min: 2 })), [], 'valueMissing'],
  ['files: no file is too few', files('F', length({ min: 2 })), [], 'tooFew'],
  ['files: no file where one is required', files('F', required(), length({ min: 2 })), [], 'valueMissing'],
  ['file: fits', file('F', fileSize({ max: 10 }), fileType('.pdf, image/*')), pdf, pdf],
  ['file: too large, wrong type', file('F', fileSize({ max: 9 }), fileType('text/plain')), pdf, 'fileTooLarge fileType'],
  ['file: none picked', file('F', required()), fileOf('', 0), 'valueMissing'],
  ['files: each is validated', files('F', fileType('image/*'), length({ max: 1 })), [png, pdf], 'fileType tooMany'],
  ['file: made of JSON, it has no content', file('F'), { name: 'a', size: 1, type: '' }, 'badInput'],
  ['files: made of JSON', files('F'), [{ name: 'a', size: 1, type: '' }], 'badInput'],
  ['text: NUL', text('F'), 'a\0', 'badInput'],
  ['text: half a pair of surrogates', text('F'), '\ud83d', 'badInput'],
  ['text: whatever', text({ label: 'F', wellFormed: false }), '\0\ud83d', '\0\ud83d'],
  ['files: no file', files('F'), [3], 'badInput'],
  ['boolean: must be true', boolean('F', mustBeTrue()), false, 'valueMissing'],
  ['custom', custom('F', { read: (raw: unknown) => (raw === 'km 3' ? 3 : unreadable('km 3, please')) }, range({ max: 2 })), 'km 3', 'rangeOverflow'],
  ['custom: throws', custom('F', { read: oops }), 'x', 'crashed'],
  ['interval', interval('F', DAY, DAY), { from: '2027-05-01', to: '2027-05-01' }, { from: '2027-05-01', to: '2027-05-01' }],
  ['interval: the wrong way round', interval('F', time('A'), time('B')), { from: '10:00', to: '09:59' }, 'to:rangeUnderflow'],
  ['list: rows and the list', list('F', text('Row', required()), length({ max: 1 })), ['a', ''], '1:valueMissing tooMany'],
  ['list: of lists', list('F', list('Row', integer('Cell'))), [['1'], [], ['x']], '2.0:badInput'],
  ['list: no list', list('F', text('Row')), 'a', 'badInput'],
  ['list: length validates an empty one', list('F', text('Row'), length({ min: 1 })), undefined, 'tooFew'],
  ['list: duplicates', list('F', group({ n: text('N') }), noDuplicates({ by: 'n' })), [{ n: 'a' }, { n: 'b' }, { n: 'a' }, {}, {}], '2.n:duplicate'],
  ['list: duplicates wait for nothing but what they read', list('F', text('Row', required()), noDuplicates()), ['a', 'a'], '1:duplicate'],
  ['list: files differ', list('F', file('A'), noDuplicates()), [pdf, png, { ...pdf }], '2:duplicate'],
  ['variant', cargo, { cargo: 'goods', tonnes: '3' }, { cargo: 'goods', tonnes: 3 }],
  ['variant: the case is validated', cargo, { cargo: 'goods', tonnes: '9' }, 'tonnes:rangeOverflow'],
  ['variant: nothing chosen', cargo, {}, 'cargo:valueMissing'],
  ['variant: no such case', cargo, { cargo: 'toString' }, 'cargo:notAllowed'],
  ['url: any scheme', text('F', url()), 'x:y', 'x:y'],
  ['ip: v4', text('F', ipAddress()), '192.0.2.255', '192.0.2.255'],
  ['ip: leading zeros', text('F', ipAddress()), '192.0.02.1', 'typeMismatch'],
  ['ip: v6', text('F', ipAddress({ version: 6 })), '2001:db8::192.0.2.1', '2001:db8::192.0.2.1'],
  ['ip: two runs', text('F', ipAddress()), '1::2::3', 'typeMismatch'],
  ['ip: a zone', text('F', ipAddress()), 'fe80::1%eth0', 'typeMismatch'],
  ['length: or one character', text('F', length({ max: 1, count: 'characters' })), '👩‍👧', '👩‍👧'],
  ['step: large and small', number('F', step(1e-7)), '123456.7654321', 123456.7654321],
  ['step: quarters of an hour', time('F', range({ min: '07:05', step: 900 })), '07:20', '07:20'],
  ['range: above', number('F', range({ above: 0, below: 1 })), '0', 'rangeUnderflow'],
  ['range: below', number('F', range({ above: 0, below: 1 })), '1', 'rangeOverflow'],
  ['range: between', number('F', range({ above: 0, below: 1 })), '0.5', 0.5],
  ['range: outside, over midnight', time('F', range({ min: '22:00', max: '06:00' })), '12:00', 'rangeUnderflow rangeOverflow'],
  ['range: times with and without seconds', time('F', range({ max: '08:00' })), '08:00:00', '08:00:00'],
  ['range: today', date('F', range({ min: 'today' })), '2027-05-01', '2027-05-01'],
  ['range: before today', date('F', range({ min: 'today' })), '2027-04-30', 'rangeUnderflow'],
  ['range: after today, in weeks', week('F', range({ max: 'today' })), '2027-W18', 'rangeOverflow'],
  ['range: today, with a time', dateTime('F', range({ max: 'today' })), '2027-05-01T23:59', '2027-05-01T23:59'],
])('%s', (_, field, raw, expected) => {
  expect(judge(field, raw)).toEqual(expected);
});

test('rules that compare siblings', () => {
  const schema = group({ a: date('A'), b: date('B'), c: date('C'), d: text('D'), e: text('E') }).with(
    fieldRules({
      b: after('a'),
      c: before('b', { orSame: true }),
      e: differsFrom('d', 'Not twice'),
    }),
  );
  const codes = (raw: object) => validate(schema, raw).findings.map(({ path, code, message }) => `${path}:${code} ${message}`);
  expect(codes({ a: '2027-05-01', b: '2027-05-01', c: '2027-05-02', d: 'x', e: 'x' })).toEqual([
    'b:rangeUnderflow B must be after A',
    'c:rangeOverflow C must not be after B',
    'e:duplicate Not twice',
  ]);
  expect(codes({ a: '2027-05-01', b: '2027-05-02', c: '2027-05-02' })).toEqual([]);
  expect(codes({ b: '2027-05-02', e: 'x' })).toEqual([]);
});

test('the limits of every ranged rule belong to the range; what lies just beyond does not', () => {
  const moments: (readonly [typeof time, string, string, string])[] = [
    [date, '2027-02-28', '2027-03-01', '2027-03-02'],
    [time, '06:59', '07:00', '07:01'],
    [month, '2026-12', '2027-01', '2027-02'],
    [week, '2026-W52', '2026-W53', '2027-W01'],
    [dateTime, '2027-02-28T23:59', '2027-03-01T00:00', '2027-03-01T00:01'],
  ];
  for (const [kind, below, at, above] of moments) {
    expect([below, at, above].map((value) => judge(kind('F', range({ min: at, max: at })), value))).toEqual(['rangeUnderflow', at, 'rangeOverflow']);
  }
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 0, max: 500 }), (min, more) => {
      const max = min + more;
      const codes = (field: (limits: { min: number; max: number }) => Node, make: (size: number) => unknown) =>
        [min - 1, min, max, max + 1].map((size) => typeof judge(field({ min, max }), make(size)) === 'string' && String(judge(field({ min, max }), make(size))).startsWith('too'));
      expect(
        codes(
          (limits) => text('F', length(limits)),
          (size) => 'x'.repeat(size),
        ).slice(min === 1 ? 1 : 0),
      ).toEqual([true, false, false, true].slice(min === 1 ? 1 : 0));
      expect(
        codes(
          (limits) => list('F', boolean('B'), length(limits)),
          (size) => Array<boolean>(size).fill(true),
        ),
      ).toEqual([true, false, false, true]);
      expect([min - 1, min, max, max + 1].map((value) => judge(number('F', range({ min, max })), value))).toEqual(['rangeUnderflow', min, max, 'rangeOverflow']);
      expect([max, max + 1].map((size) => judge(file('F', fileSize({ max })), { ...pdf, size }))).toEqual([{ ...pdf, size: max }, 'fileTooLarge']);
    }),
    runs(40),
  );
});

test('reading what was written gives the value back', () => {
  const finite = fc.double({ noNaN: true, noDefaultInfinity: true }).map((value) => value + 0);
  const two = (max: number, min = 0) => fc.integer({ min, max }).map((value) => String(value).padStart(2, '0'));
  const year = fc.integer({ min: 1, max: 9999 }).map((value) => String(value).padStart(4, '0'));
  const day = fc.date({ min: new Date('0001-01-01'), max: new Date('9999-12-31'), noInvalidDate: true }).map((value) => value.toISOString().slice(0, 10));
  const cases: [Node, fc.Arbitrary<unknown>][] = [
    [text('F'), fc.string({ minLength: 1 }).map((value) => value.trim() || 'x')],
    [number('F'), finite],
    [de, finite.filter((value) => !String(value).includes('e'))],
    [fr, finite.filter((value) => !String(value).includes('e'))],
    [integer('F'), fc.maxSafeInteger().map((value) => value + 0)],
    [boolean('F'), fc.boolean()],
    [date('F'), day],
    ...['de', 'en-US', 'ja', 'ar-EG', 'ko', 'bg', 'sv', 'cs'].map((locale): [Node, typeof day] => [date({ label: 'F', locale }), day]),
    [time('F'), fc.tuple(two(23), two(59)).map((parts) => parts.join(':'))],
    [month('F'), fc.tuple(year, two(12, 1)).map((parts) => parts.join('-'))],
    [week('F'), fc.tuple(year, two(52, 1)).map((parts) => parts.join('-W'))],
    [side, fc.subarray(['port', 'starboard'])],
    [list('F', number('N')), fc.array(finite)],
    [group({ a: number('A'), b: list('B', text('T')) }), fc.record({ a: finite, b: fc.array(fc.constantFrom('x', 'y')) })],
    [cargo, fc.constantFrom<object>({ cargo: 'none' }, { cargo: 'goods', tonnes: 2.5 })],
  ];
  for (const [field, values] of cases) {
    fc.assert(
      fc.property(values, (value) => {
        const gate = createGate(group({ f: field }), { initial: { f: value } as never });
        expect((gate.root.data as { f: unknown }).f).toEqual(value);
        // What the controls hold then, validated as a whole, yields the same.
        expect(judge(field, gate.root.raw.f)).toEqual(value);
      }),
      runs(60),
    );
  }
});

test('the findings are the same whatever the order of the keys, in the gate too', () => {
  const schema = group({
    name: text('Name', required()),
    beam: number('Beam', range({ max: 5 })),
    crew: list('Crew', group({ name: text('Name', required()), age: integer('Age') }), noDuplicates({ by: 'name' }), length({ max: 2 })),
    cargo,
    tug: text('Tug', required()),
  })
    .with(appliesWhen({ tug: (all) => (all.beam ?? 0) > 4 }))
    .with(fieldRules({ name: check((name, all) => all.crew.every((member) => member.name !== name), 'On board already') }));
  const value = fc.record(
    {
      name: fc.constantFrom('Ann', 'Bo', ''),
      beam: fc.constantFrom('3', '4.5', '6', 'x'),
      crew: fc.array(fc.record({ name: fc.constantFrom('Ann', 'Bo', ''), age: fc.constantFrom('3', 'y') }), { maxLength: 4 }),
      cargo: fc.record({ cargo: fc.constantFrom('none', 'goods', 'x'), tonnes: fc.constantFrom('1', '9', 'z') }, { requiredKeys: [] }),
      tug: fc.constantFrom('', 'Tom'),
    },
    { requiredKeys: [] },
  );
  fc.assert(
    fc.property(value, fc.integer(), (raw, seed) => {
      const found = validate(schema, raw).findings;
      const shuffled = Object.fromEntries(Object.entries(raw).sort(([a], [b]) => ((a.length * seed) % 7) - ((b.length * seed) % 7)));
      expect(validate(schema, shuffled).findings).toEqual(found);
      const gate = createGate(schema, { initial: raw as never });
      expect(gate.findings).toEqual(found);
      expect(gate.state.errorCount).toBe(found.length);
    }),
    runs(300),
  );
});

test('a file of JSON is what is known of it, without a path in its name or anything else', () => {
  const schema = group({ one: file('One'), several: files('Several') });
  const known = (name: string) => ({ name, size: 1, type: 'x' });
  const raw = { one: { ...known('../../a.pdf'), path: '/etc' }, several: [known('C:\\b.pdf'), known('c')] };
  // Half a pair of surrogates in the name, the other half in the type.
  expect(validate(schema, { one: { ...known('\ud83d'), type: '\ude00' } }, { source: 'json' }).ok).toBe(false);
  for (const name of ['a\0.pdf', '\ud83d'])
    expect(
      [validate(schema, { one: known(name) }, { source: 'json' }), validate(schema, { one: { ...known(name), slice: () => undefined } as never })].map(({ ok }) => ok),
    ).toEqual([false, false]);
  expect(validate(schema, raw, { source: 'json' })).toMatchObject({ ok: true, data: { one: known('a.pdf'), several: [known('b.pdf'), known('c')] } });
  const judged = validate(schema, raw, { source: 'json' });
  expect(judged.ok && Object.keys(judged.data.one!)).toEqual(['name', 'size', 'type']);
});

test('characters are counted as they are seen, however long the text; a limit is all that matters beyond it', () => {
  const unit = fc.constantFrom('a', 'e\u0301', '👩‍👩‍👧', '🇩🇪', '🇩', '\r\n', '\u0301', 'क्षि', '각');
  fc.assert(
    fc.property(fc.array(unit, { maxLength: 900 }), fc.integer({ min: 1, max: 1200 }), (units, max) => {
      const value = `x${units.join('')}`;
      const count = [...new Intl.Segmenter().segment(value)].length;
      const codes = (limits: object) => judge(text({ label: 'F', trim: false }, length({ ...limits, count: 'characters' })), value);
      expect([codes({ min: count, max: count }), codes({ max })]).toEqual([value, count > max ? 'tooLong' : value]);
    }),
    runs(50),
  );
});
