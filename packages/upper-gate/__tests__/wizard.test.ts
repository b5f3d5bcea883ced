// Forms in steps: what is complete, and what was entered.

import { expect, test } from '@jest/globals';
import * as library from 'upper-gate';
import { de } from 'upper-gate/messages/de';
import { ja } from 'upper-gate/messages/ja';
import { isComplete, reviewOf, type ReviewEntry } from 'upper-gate/wizard';
import { fileOf } from './fileOf.ts';

const { appliesWhen, fieldRules } = library;
const { asyncCheck, boolean, check, choice, choices, choicesFrom, context, createGate, date, dictionary, file, group, list, mapped, number, required, text, time } = library;
const { variant } = library;

const season = context('season', { fallback: 'summer' });
const passage = group({
  vessel: text({ label: { en: 'Vessel', de: 'Schiff' } }, required()),
  beam: number({ label: 'Beam', locale: 'auto' }),
  arrival: date('Arrival'),
  at: time('At'),
  ok: boolean('Fine'),
  side: choice('Side', [{ value: 'p', label: 'Port' }, 's']),
  kit: choices('Kit', [{ value: 'h', label: 'Horn' }, 'lights', 'rope']),
  berth: text('Berth'),
  papers: file('Papers'),
  pin: text({ label: 'PIN', private: true }),
  paid: mapped(date('Paid'), { to: (day) => new Date(day), from: (when) => when.toISOString().slice(0, 10) }),
  cargo: variant('Cargo', 'load', { goods: group({ tonnes: number('Tonnes') }), none: group({}) }),
  tug: text('Tug'),
  crew: list('Crew', group({ name: text('Name', required()) })),
  ports: list('Ports', text('Port')),
  tolls: dictionary('Tolls', number('Toll')),
  owner: group({ mail: text('E-mail') }, 'Owner'),
  card: group({ number: text('Number') }, { label: 'Card', private: true }),
})
  .with(appliesWhen({ tug: (it) => (it.beam ?? 0) > 4 }))
  .with(fieldRules({ berth: choicesFrom((it) => (it.side === 'p' ? [{ value: 'A1', label: 'Quay A, 1' }] : [])) }));
const initial = {
  ...{ vessel: 'Otter', beam: 1234.5, arrival: '2027-05-01', at: '09:30', ok: true, side: 'p', kit: ['h', 'rope'], berth: 'A1', papers: fileOf('a.pdf', 3), pin: '1234' },
  ...{ paid: new Date('2027-04-30'), cargo: { load: 'goods', tonnes: 3 }, crew: [{ name: 'Ada' }, {}], ports: ['Oster'], tolls: { barge: 2.5 } },
} as const;
const flat = (entries: readonly ReviewEntry[]): string[] =>
  entries.flatMap(({ path, label, text: value, entries: inner }) => [`${path} ${label}: ${value}`, ...(inner ? flat(inner) : [])]);

test('a rule that throws makes a step incomplete, whatever its severity', () => {
  const broken = check(
    () => {
      throw new Error('broken');
    },
    { severity: 'warning', on: 'submit' },
  );
  const gate = createGate(group({ vessel: text('Vessel', broken) }), { initial: { vessel: 'Otter' }, onFault: () => undefined });
  expect(isComplete(gate, ['vessel'])).toBe(false);
});

test('a review: labels and written values, in the language of the form; the same until something changes', () => {
  const gate = createGate(passage, { initial: initial as never });
  const before = reviewOf(gate);
  expect(flat(before)).toEqual([
    ...['vessel Vessel: Otter', 'beam Beam: 1,234.5', 'arrival Arrival: May 1, 2027', 'at At: 09:30', 'ok Fine: Yes', 'side Side: Port', 'kit Kit: Horn and rope'],
    ...['berth Berth: Quay A, 1', 'papers Papers: a.pdf', 'pin PIN: ••••••', 'paid Paid: 2027-04-30', 'cargo Cargo: goods', 'cargo.tonnes Tonnes: 3'],
    ...['tug Tug: ', 'crew Crew: undefined', 'crew.0 Crew 1: undefined', 'crew.0.name Name: Ada', 'crew.1 Crew 2: undefined', 'crew.1.name Name: ', 'ports Ports: undefined'],
    ...['ports.0 Ports 1: Oster', 'tolls Tolls: undefined', 'tolls.barge barge: 2.5', 'owner Owner: undefined', 'owner.mail E-mail: ', 'card Card: ••••••'],
  ]);
  expect(reviewOf(gate)).toBe(before);
  gate.setLocale(de);
  gate.set({ beam: 3, ok: false, kit: [], pin: '' });
  expect(flat(reviewOf(gate, ['vessel', 'beam', 'arrival', 'ok', 'kit', 'pin']))).toEqual([
    'vessel Schiff: Otter',
    'beam Beam: 3',
    'arrival Arrival: 01.05.2027',
    'ok Fine: Nein',
    'kit Kit: ',
    'pin PIN: ',
  ]);
  expect(flat(reviewOf(gate)).some((line) => line.startsWith('tug'))).toBe(false);
  gate.setLocale(ja);
  expect(flat(reviewOf(gate, ['arrival']))).toEqual(['arrival Arrival: 2027/05/01']);
  // What cannot be read is there as it was typed; what is wrong shows nowhere.
  gate.set({ beam: 'wide' });
  expect([flat(reviewOf(gate, ['beam'])), gate.field('vessel').shown]).toEqual([['beam Beam: wide'], []]);
  expect(() => reviewOf(gate, ['nothing' as 'beam'])).toThrow('no field');
});

test('a step is complete once all that is in it is right; asking shows nothing', async () => {
  let answer: (isFree: boolean) => void = () => undefined;
  const notX = check((value: string) => value !== 'x', { on: 'submit' });
  const inSeason = check((value: string) => value === season.get());
  const asks = asyncCheck(() => new Promise<boolean>((resolve) => (answer = resolve)), { debounce: 0 });
  const gate = createGate(
    group({
      name: text('Name', required(), notX),
      again: text('Again'),
      season: text('Season', inSeason),
      code: text('Code', asks),
      crew: list('Crew', group({ name: text('Name', required()) })),
      tug: text('Tug', required()),
    })
      .with(appliesWhen({ tug: (it) => it.again === 'tug' }))
      .with(fieldRules({ again: check((value, it) => value === it.name || value === 'tug') })),
    { on: 'blur' },
  );
  const steps = [['name', 'again'], ['season'], ['code'], ['crew', 'tug']];
  const done = () => steps.map((paths) => isComplete(gate, paths));
  expect(done()).toEqual([false, true, true, true]);
  gate.set({ name: 'x', season: 'winter', code: '1', crew: [{ name: '' }] });
  expect(done()).toEqual([false, false, true, false]);
  gate.set({ name: 'Otter', season: 'summer', crew: [{ name: 'Ada' }] });
  expect(done()).toEqual([true, true, true, true]);
  gate.set({ again: 'Ibis' });
  gate.field('again').leave();
  gate.field('code').leave();
  await new Promise((resolve) => void setTimeout(resolve, 5));
  expect(done()).toEqual([false, true, false, true]);
  answer(true);
  await new Promise((resolve) => void setTimeout(resolve, 5));
  gate.set({ again: 'tug' });
  expect(done()).toEqual([true, true, true, false]);
  expect([gate.field('name').shown, gate.field('tug').shown]).toEqual([[], []]);
});
