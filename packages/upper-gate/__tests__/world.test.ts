import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import { createGate, file, group, keepDraft, length, list, number, required, text, variant, type DraftStorage } from 'upper-gate';
import { setDisabled } from 'upper-gate/binding';
import { fileOf } from './fileOf.ts';

beforeEach(() => void jest.useFakeTimers({ now: new Date(2027, 4, 1) }));
afterEach(() => void jest.useRealTimers());

const schema = group({
  vessel: text('Vessel', required()),
  beam: number('Beam'),
  pin: text({ label: 'Pin', private: true }),
  paper: file('Paper'),
  crew: list('Crew', group({ name: text('Name', required(), length({ max: 5 })), code: text({ label: 'Code', private: true }) })),
  cargo: variant('Cargo', 'cargo', { none: group({}), goods: group({ tonnes: number('Tonnes') }) }),
});

test('new values from outside arrive, but for what was edited; reset leads to them', () => {
  const gate = createGate(schema, { initial: { vessel: 'Otter', beam: 2, crew: [{ name: 'Ann' }, { name: 'Bo' }] } });
  gate.field('vessel').set('Heron');
  gate.field('crew.1.name').set('Bob');
  gate.field('beam').leave();
  gate.rebase({ vessel: 'Teal', beam: 3, crew: [{ name: 'Anna' }] });
  expect(gate.root.raw).toMatchObject({ vessel: 'Heron', beam: '3', crew: [{ name: 'Anna' }, { name: 'Bob' }] });
  expect({ dirty: gate.field('vessel').dirty, 'gate.field(beam).dirty': gate.field('beam').dirty, touched: gate.field('beam').touched }).toEqual({
    dirty: true,
    'gate.field(beam).dirty': false,
    touched: true,
  });
  gate.field('vessel').set('Teal');
  expect(gate.field('vessel').dirty).toBe(false);
  gate.rebase({ cargo: { cargo: 'goods', tonnes: 4 } });
  expect({ data: gate.field('cargo.tonnes').data, raw: gate.field('vessel').raw }).toEqual({ data: 4, raw: 'Teal' });
  gate.reset();
  expect(gate.root.raw).toMatchObject({ vessel: 'Teal', beam: '3', crew: [{ name: 'Anna' }], cargo: { cargo: 'goods', tonnes: '4' } });
  expect(gate.state).toMatchObject({ dirty: false, touched: false });
});

test('a disabled field is neither validated nor sent, and keeps its value', async () => {
  const gate = createGate(schema, { initial: { vessel: '', beam: 3 } });
  setDisabled(gate.field('vessel'), true);
  setDisabled(gate.field('beam'), true);
  expect(await gate.submit()).toMatchObject({ status: 'accepted', data: { vessel: undefined, beam: undefined } });
  setDisabled(gate.field('vessel'), false);
  expect({ valid: gate.state.valid, raw: gate.field('beam').raw }).toEqual({ valid: false, raw: '3' });
});

test('fields and the form tell when they begin to fail, and to pass', async () => {
  const gate = createGate(schema);
  const told: string[] = [];
  gate.on('fail', ({ path, findings }) => told.push(`fail "${path}" ${findings.length}`));
  gate.on('pass', ({ path }) => told.push(`pass "${path}"`));
  gate.field('vessel').set('');
  gate.field('vessel').leave();
  gate.field('vessel').set('O');
  gate.field('vessel').set('Ot');
  // The form has followed since the first field was left.
  expect(told.splice(0)).toEqual(['fail "vessel" 1', 'fail "" 1', 'pass "vessel"', 'pass ""']);
  gate.list('crew').add();
  await gate.submit();
  expect(told.splice(0).sort()).toEqual(['fail "" 1', 'fail "crew.0.name" 1', ...['beam', 'cargo.cargo', 'crew.0.code', 'paper', 'pin'].map((path) => `pass "${path}"`)]);
  gate.list('crew').remove(0);
  expect(told).toEqual(['pass ""']);
});

/** A store in memory. */
function makeStore(): DraftStorage & { readonly kept: Map<string, string> } {
  const kept = new Map<string, string>();
  return { kept, getItem: (key) => kept.get(key) ?? null, setItem: (key, value) => void kept.set(key, value), removeItem: (key) => void kept.delete(key) };
}

test('a draft keeps what was edited, but for files and what is private, and restores it as edits', async () => {
  const store = makeStore();
  const open = (options: object = {}) => {
    const gate = createGate(schema, { initial: { vessel: 'Otter', crew: [{ name: 'Ann' }] } });
    return { gate, draft: keepDraft(gate, { storage: store, key: 'passage', maxAge: 60_000, ...options }) };
  };
  const { gate, draft } = open();
  expect({ restored: draft.restored, size: store.kept.size }).toEqual({ restored: false, size: 0 });
  gate.set({ beam: '2.', pin: 'secret', cargo: { cargo: 'goods', tonnes: '7' } });
  gate.field('paper').set(fileOf('a.pdf', 1));
  gate.list('crew').add({ name: 'Bo', code: 'hidden' });
  jest.advanceTimersByTime(300);
  expect(store.kept.get('passage')).not.toMatch(/secret|hidden|a\.pdf/);
  const again = open();
  expect(again.draft.restored).toBe(true);
  expect(again.gate.root.raw).toEqual({
    vessel: 'Otter',
    beam: '2.',
    pin: '',
    paper: null,
    crew: [
      { name: 'Ann', code: '' },
      { name: 'Bo', code: '' },
    ],
    cargo: { cargo: 'goods', tonnes: '7' },
  });
  expect({ dirty: again.gate.field('beam').dirty, 'again.gate.field(vessel).dirty': again.gate.field('vessel').dirty }).toEqual({
    dirty: true,
    'again.gate.field(vessel).dirty': false,
  });
  expect(open({ fields: ['crew'] }).gate.field('beam').raw).toBe('');
  jest.advanceTimersByTime(60_001);
  expect({ restored: open().draft.restored, size: store.kept.size }).toEqual({ restored: false, size: 0 });
  again.gate.field('beam').set('3');
  jest.advanceTimersByTime(300);
  expect(store.kept.size).toBe(1);
  await again.gate.submit();
  expect(store.kept.size).toBe(0);
});
