import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, jest, test } from '@jest/globals';
import * as library from 'upper-gate';
import type { Catalogue } from 'upper-gate';
import { icuCatalogue } from 'upper-gate/icu';
import { en } from 'upper-gate/messages/en';
import { ar } from 'upper-gate/messages/ar';
import { de } from 'upper-gate/messages/de';
import { es } from 'upper-gate/messages/es';
import { fr } from 'upper-gate/messages/fr';
import { ja } from 'upper-gate/messages/ja';
import { fileOf } from './fileOf.ts';
import { UNREADABLE_INPUT } from 'upper-gate/dom';
import { reviewOf } from 'upper-gate/wizard';
import { fromJsonSchema, toJsonSchema } from 'upper-gate/json-schema';
import { storageOf } from './storageOf.ts';

const { fieldRules } = library;
const {
  choices,
  createGate,
  date,
  dateTime,
  email,
  file,
  fileSize,
  fileType,
  group,
  keepDraft,
  length,
  list,
  integer,
  number,
  range,
  required,
  sameAs,
  step,
  text,
  time,
  validate,
  week,
} = library;

/** Every code that is reported, by anything; the types hold English to have them all. */
const CODES = Object.keys(en).filter((code) => code !== 'locale') as Exclude<keyof typeof en, 'locale'>[];
en satisfies Required<Omit<Catalogue, 'own'>>;
/** Every language that there is a file of. */
const LANGUAGES = readdirSync(join(__dirname, '../src/messages')).flatMap((file) => /^([a-z]{2})\.ts$/.exec(file)?.[1] ?? []);
const CATALOGUES = LANGUAGES.map((language) => jest.requireActual<Record<string, Catalogue>>(`upper-gate/messages/${language}`)[language]!);

/** Every way in which a code may be reported. */
const OCCASIONS: Readonly<Record<string, readonly object[]>> = {
  valueMissing: [{ holds: 'value' }, { holds: 'flag' }, { holds: 'option' }],
  badInput: ['number', 'integer', 'date', 'time', 'dateTime', 'month', 'week', 'color', 'anyJson', 'custom'].map((kind) => ({ kind })),
  typeMismatch: ['email', 'url', 'ipAddress', 'cardNumber', 'timestamp', 'time', 'uuid', ''].map((type) => ({ type })),
  tooFew: ['options', 'files', 'rows'].map((holds) => ({ holds, min: 2 })),
  tooMany: ['options', 'files', 'rows'].map((holds) => ({ holds, max: 1 })),
  rangeUnderflow: [
    { min: 1200.5 },
    { min: '2027-05-01' },
    { min: '07:00' },
    { above: 0 },
    { min: '2027-05' },
    { min: '2027-05-01T09:30' },
    { otherLabel: 'Other' },
    { otherLabel: 'Other', orSame: true },
    { otherLabel: 'Other', numeric: true },
    { otherLabel: 'Other', orSame: true, numeric: true },
  ],
  stepMismatch: [{ step: 0.5 }, { step: 900, kind: 'time', nearest: ['09:00', '09:15'] }],
  firstOther: [{ otherLabel: 'Other' }],
  mediaType: [{ type: 'image' }, { type: 'model' }],
  week: [{ week: 18, year: 2027 }],
  rangeOverflow: [{ max: 3 }, { below: 5.5 }, { max: '2027-W18' }, { otherLabel: 'Other' }, { otherLabel: 'Other', numeric: true }],
  duplicate: [{ first: 3 }, { otherLabel: 'Other' }],
  summary: [{ count: 1 }, { count: 3 }],
  stillRefused: [{ summary: 'Check 2' }],
  rowAdded: [{ row: 2 }],
  rowRemoved: [{ row: 2 }],
  rowMoved: [{ row: 2, to: 1 }],
};
const PARAMS = { label: 'Label', min: 2, max: 40, step: 0.5, otherLabel: 'Other', first: 1, used: 3, file: 'a.pdf', accept: '.pdf', name: 'zzz' };

test('each language is called by the tag that its file has, and is in the docs', () => {
  const docs = readFileSync(join(__dirname, '../../../docs/messages.md'), 'utf8');
  expect(CATALOGUES.map(({ locale }) => locale)).toEqual(LANGUAGES);
  expect(LANGUAGES.filter((language) => !docs.includes(`\`${language}\``))).toEqual([]);
});

test.each(CATALOGUES.map((catalogue) => [catalogue.locale!, catalogue] as const))('%s says every code on every occasion', (_, catalogue) => {
  expect(
    Object.keys(catalogue)
      .filter((code) => code !== 'locale')
      .sort(),
  ).toEqual([...CODES].sort());
  for (const code of CODES) {
    for (const occasion of OCCASIONS[code] ?? [{}]) {
      const schema = group({ f: text('Label') });
      const params = { ...(Object.hasOwn(OCCASIONS, code) ? {} : PARAMS), ...occasion };
      const gate = createGate(schema, { messages: { own: { it: catalogue[code]! }, locale: catalogue.locale! } });
      gate.addFindings([{ path: 'f', message: '', code: 'it', params }]);
      const [finding] = gate.field('f').findings;
      expect(finding?.message).toMatch(/\S/);
      expect(finding?.message).not.toMatch(/undefined|null|NaN|\[object|[{}]|#(?!1)/);
    }
  }
});

const message = (field: Parameters<typeof group>[0][string], raw: unknown, messages?: Catalogue) =>
  validate(group({ f: field }), { f: raw }, { now: () => new Date(2026, 11, 1, 9), ...(messages && { messages }) })
    .findings.map((finding) => finding.message)
    .join(' | ');
const TYPES = 'image/*,application/vnd.openxmlformats-officedocument.wordprocessingml.document,.pdf,application/pdf';

test.each<[string, unknown, unknown]>([
  ['Name must have at most 1 character', message(text('Name', length({ max: 1 })), 'xy'), 0],
  ['Choose at most 1 option for Kit', message(choices('Kit', ['a', 'b'], length({ max: 1 })), ['a', 'b']), 0],
  ['Toll must be at most 1,200.5', message(number('Toll', range({ max: 1200.5 })), 2000), 0],
  ['Arrival must be May 1, 2027 or later', message(date('Arrival', range({ min: '2027-05-01' })), '2027-04-30'), 0],
  ['a.pdf is too large for Paper: choose a file of at most 2 MB', message(file('Paper', fileSize({ max: 2e6 })), fileOf('a.pdf', 3e6)), 0],
  ['Slot must be in steps of 15 minutes, such as 09:00 or 09:15', message(time('Slot', step(900)), '09:10'), 0],
  ['Slot: Schrittweite 15 Minuten, etwa 19:00', message(time('Slot', range({ min: '07:00', max: '19:00', step: 900 })), '19:10', de).split(' | ')[1], 0],
  ['Steps of 2 weeks from week 1 of 2027', message(week('W', step(2, '2027-W01', 'Steps of {step} from {base}')), '2027-W02'), 0],
  ['W：2027年第10週以降にしてください', message(week('W', range({ min: '2027-W10' })), '2027-W08', ja), 0],
  ['Day must be in steps of 7 days, such as 31 Dec 2032 or 7 Jan 2033', message(date('Day', step(7, '2027-01-01')), '2033-01-01', { ...en, locale: 'en-GB' }), 0],
  ['Left must be Dec 1, 2026 or later', message(dateTime('Left', range({ min: 'today' })), '2026-11-30T23:00'), 0],
  ['Complete or correct Arrival', message(date('Arrival'), UNREADABLE_INPUT), 0],
  ['a.exe has the wrong type for Paper: choose a file of type image, DOCX, or PDF', message(file('Paper', fileType(TYPES)), fileOf('a.exe', 1)), 0],
  ['Only Bild, DOCX oder PDF', message(file('Paper', fileType(TYPES, 'Only {accept}')), fileOf('a.exe', 1), de), 0],
  ['Zoll: höchstens 1.200,5', message(number('Zoll', range({ max: 1200.5 })), 2000, de), 0],
  ['Arrivée\u00a0: au plus tôt\u00a0: 1 mai 2027', message(date('Arrivée', range({ min: '2027-05-01' })), '2027-04-30', fr), 0],
  ['\u2068الاسم\u2069: الحد الأدنى حرفان', message(text('الاسم', length({ min: 2 })), 'x', ar), 0],
  ['\u2068الاسم\u2069: الحد الأدنى ٣ أحرف', message(text('الاسم', length({ min: 3 })), 'x', { ...ar }), 'digits'],
  ['Tripulación: como mínimo 2 entradas', message(list('Tripulación', text('T'), length({ min: 2 })), [], es), 0],
  ['メール：name@example.com のような形式で入力してください', message(text('メール', email()), 'x', ja), 0],
])('%s', (expected, actual, digits) => {
  // Which digits Arabic takes is the platform's affair.
  const plain = (value: unknown) => (digits === 0 ? value : String(value).replace(/[٠-٩]/g, (digit) => String('٠١٢٣٤٥٦٧٨٩'.indexOf(digit))));
  expect(plain(actual)).toBe(plain(expected));
});

test.each([
  ['ar', { ar: 'حتى {max} في {label}' }, 'حتى 3 في \u2068Name\u2069'],
  ['he', ({ label, file }: { label: string; file?: unknown }) => `${label}, ${String(file)}`, '\u2068Name\u2069, \u2068a.pdf\u2069'],
  ['de', { de: '{label} {file}' }, 'Name a.pdf'],
])('a value in a right-to-left text keeps its own direction: %s', (locale, message, expected) => {
  const gate = createGate(group({ f: text('Name') }), { messages: { locale } });
  gate.addFindings([{ path: 'f', message: '', code: 'it', params: { max: 3, file: 'a.pdf' } }]);
  gate.setLocale({ locale, own: { it: message } });
  expect(gate.field('f').findings[0]?.message).toBe(expected);
});

test.each(CATALOGUES)('a number is shown as the field reads it, whatever the language: %#', (messages) => {
  expect(message(number('N'), 'x', messages)).toMatch(/3\.5/);
  expect(message(number({ label: 'N', locale: 'de' }), 'x', messages)).toMatch(/3,5/);
});

test.each(CATALOGUES)('a year has no groups of digits, in messages, hints and reviews, and keeps that in documents: %#', (messages) => {
  const year = integer({ label: 'Built', hint: 'From {min}', useGrouping: false }, range({ min: 1850 }));
  for (const built of [year, fromJsonSchema(toJsonSchema(year))]) {
    const gate = createGate(group({ built }), { messages, initial: { built: 1204 } });
    const { format } = new Intl.NumberFormat(messages.locale, { useGrouping: false });
    const words = [gate.findings[0]!.message, gate.field('built').hint, reviewOf(gate)[0]!.text];
    expect(words).toEqual([expect.stringContaining(format(1850)), `From ${format(1850)}`, format(1204)]);
  }
});

test('labels in several languages, and a language that changes while messages are shown', () => {
  const schema = group({
    beam: number({ label: { en: 'Beam', fr: 'Largeur' }, hint: { en: 'At the widest', fr: 'Au plus large' } }, required()),
    again: number({ label: { en: 'Again', fr: 'Encore' } }),
  }).with(fieldRules({ again: sameAs('beam') }));
  const gate = createGate(schema, { initial: { again: 3 } });
  gate.field('beam').leave();
  expect({ label: gate.field('beam').label, message: gate.field('beam').shown[0]?.message }).toEqual({ label: 'Beam', message: 'Beam is required' });
  gate.setLocale(fr);
  gate.set({ beam: 2 });
  expect({ hint: gate.field('beam').hint, message: gate.field('again').findings[0]?.message }).toEqual({
    hint: 'Au plus large',
    message: 'Encore\u00a0: doit être identique à «\u00a0Largeur\u00a0»',
  });
  gate.setLocale(undefined);
  expect(gate.field('again').findings[0]?.message).toBe('Again must be the same as Beam');
  gate.setLocale({ locale: 'nl' });
  expect(gate.field('beam').label).toBe('Beam');
});

test('catalogues in ICU MessageFormat', () => {
  const nl = icuCatalogue('nl', { tooShort: '{label}: minstens {min, plural, one {# teken} other {# tekens}}', rangeOverflow: '{label}: hooguit {max, number} <m>' });
  expect(message(text('Naam', length({ min: 2 })), 'x', nl)).toBe('Naam: minstens 2 tekens');
  expect(message(number('Lengte', range({ max: 1200.5 })), 2000, nl)).toBe('Lengte: hooguit 1.200,5 <m>');
  expect(message(text('Naam', required()), '', nl)).toBe('Naam is required');
  expect(() => icuCatalogue('nl', { tooShort: '{min, plural, }' })).toThrow(SyntaxError);
});

test('a message that throws loses no finding, and is reported once', () => {
  const told = jest.spyOn(console, 'warn').mockImplementation(() => undefined);
  const broken = text(
    'Name',
    length(
      { min: 2 },
      {
        message: () => {
          throw new Error('no words');
        },
      },
    ),
  );
  expect({ 'message x broken': message(broken, 'x'), 'message y broken': message(broken, 'y') }).toEqual({ 'message x broken': 'Name', 'message y broken': 'Name' });
  expect(told.mock.calls).toEqual([
    ['Upper Gate: the message function for "Name" threw: Error: no words. The label is shown instead. Correct the function. (docs: troubleshooting#message-function-threw)'],
  ]);
  told.mockRestore();
});

test('numbers and dates in the language of the form: read and written by it, and written anew when it changes; drafts are of no language', async () => {
  const schema = group({
    toll: number({ label: 'Toll', locale: 'auto' }, range({ max: 5000 })),
    crates: list('Crates', group({ weight: number({ label: 'Weight', locale: 'auto' }) })),
    plain: number('Plain'),
    day: date({ label: 'Day', locale: 'auto' }),
  });
  const read = (toll: string, messages?: Catalogue) => validate(schema, { toll }, { ...(messages && { messages }) });
  expect([read('1,234.5'), read('1.234,5', de)]).toMatchObject([{ data: { toll: 1234.5 } }, { data: { toll: 1234.5 } }]);
  expect(read('1.5', de).findings[0]?.message).toContain('3,5');
  expect(validate(schema, { toll: 1234.5, day: '2027-05-12' }, { source: 'json', messages: de }).ok).toBe(true);
  // (As JSON, a date is of no language.)
  const typed = { day: '12.05.2027' };
  expect([validate(schema, typed, { source: 'json', messages: de }).ok, validate(schema, typed, { messages: de })]).toMatchObject([false, { data: { day: '2027-05-12' } }]);
  expect([en, de, fr, ja].map((messages) => validate(schema, { day: '2027' }, { messages }).findings[0]?.message.replace(/\s/g, ' '))).toEqual([
    'Enter a valid date for Day, such as 05/28/2027',
    'Day: bitte ein Datum eingeben, etwa 28.05.2027',
    'Day : saisissez une date, par exemple 28/05/2027',
    'Day：日付を入力してください（例：2027/05/28）',
  ]);
  const gate = createGate(schema, { initial: { toll: 1.5, crates: [{ weight: 2.5 }], plain: 1.5, day: '2027-05-12' } });
  const raws = () => [gate.field('toll').raw, gate.field('crates.0.weight').raw, gate.field('plain').raw, gate.field('day').raw];
  const kept = new Map<string, string>();
  const storage = storageOf(kept);
  expect(raws()).toEqual(['1.5', '2.5', '1.5', '05/12/2027']);
  gate.setLocale(de);
  expect([raws(), gate.state.dirty]).toEqual([['1,5', '2,5', '1.5', '12.05.2027'], false]);
  const draft = keepDraft(gate, { key: 'draft', storage, wait: 0 });
  gate.field('toll').set('1.234,5');
  gate.list('crates').add({ weight: 0.5 });
  gate.field('crates.1.weight').set('x');
  expect(gate.field('toll').data).toBe(1234.5);
  await new Promise((resolve) => setTimeout(resolve, 5));
  draft.stop();
  gate.setLocale(undefined);
  expect([gate.field('toll').raw, gate.field('crates.1.weight').raw, gate.field('toll').data]).toEqual(['1234.5', 'x', 1234.5]);
  gate.reset();
  expect([raws(), gate.state.dirty]).toEqual([['1.5', '2.5', '1.5', '05/12/2027'], false]);
  const later = createGate(schema, { initial: { toll: 1.5 }, messages: fr });
  keepDraft(later, { key: 'draft', storage });
  expect([later.field('toll').raw, later.field('crates.0.weight').raw, later.field('crates.1.weight').raw]).toEqual(['1234,5', '2,5', 'x']);
});
