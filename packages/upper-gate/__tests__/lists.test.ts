import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { expect, test } from '@jest/globals';
import { fieldRules, appliesWhen, asyncCheck, boolean, check, createGate, depending, group, length, list, noDuplicates, number, range, required, text, variant } from 'upper-gate';

let runs: string[] = [];
const note = (name: string): boolean => {
  runs.push(name);
  return true;
};
const after = (edit: () => void): string[] => {
  runs = [];
  edit();
  return runs.sort();
};
const schema = group({
  beam: number('Beam'),
  crew: list(
    'Crew',
    group({ name: text('Name', required()), age: number('Age') }).with(fieldRules({ age: check((age, one) => note(`age of ${one.name}`) && age < 100) })),
    length({ max: 3 }),
    noDuplicates({ by: 'name' }),
    check((crew) => note('count') && crew.length < 10),
  ),
  cargo: variant('Cargo', 'cargo', { none: group({}), goods: group({ tonnes: number('Tonnes', required(), range({ max: 5 })) }) }),
}).with(
  fieldRules({
    beam: check((beam, all) => note('beam') && (beam < 3 || all.crew.some(({ age }) => (age ?? 0) > 18) || 'An adult, please')),
    cargo: check((cargo) => note('cargo') && (cargo.cargo === 'none' || cargo.tonnes !== 4)),
  }),
);
const make = () =>
  createGate(schema, {
    initial: {
      beam: 2,
      crew: [
        { name: 'Ann', age: 30 },
        { name: 'Bo', age: 7 },
      ],
    },
  });

test('reads in lists and variants are tracked to the field, branch by branch', () => {
  const gate = make();
  expect(after(() => gate.field('crew.1.age').set(8))).toEqual(['age of Bo']);
  expect(after(() => gate.field('beam').set(4))).toEqual(['beam']);
  expect(after(() => gate.field('crew.1.age').set(9))).toEqual(['age of Bo']); // Ann is adult: Bo's age was not read
  expect(after(() => gate.field('crew.0.age').set(10))).toEqual(['age of Ann', 'beam']);
  expect(gate.field('beam').findings).toMatchObject([{ message: 'An adult, please' }]);
  expect(after(() => gate.field('crew.1.age').set(40))).toEqual(['age of Bo', 'beam']);
  expect(after(() => gate.field('crew.0.name').set('Ada'))).toEqual(['age of Ada']);
  expect(after(() => gate.list('crew').add({ name: 'Cy' }))).toEqual(['beam', 'count']);
  expect(after(() => gate.field('cargo.cargo').set('goods'))).toEqual(['cargo']);
  expect(after(() => gate.field('cargo.tonnes').set('4'))).toEqual(['cargo']);
  expect(gate.field('cargo').findings).toHaveLength(1);
  expect(after(() => gate.field('cargo.cargo').set('none'))).toEqual(['cargo']);
  expect(gate.field('cargo').findings).toEqual([]);
});

test('state belongs to the row: values, findings, handles and questions move with it', async () => {
  const asked: { value: string; signal: AbortSignal; answer: (said: unknown) => void }[] = [];
  const ask = asyncCheck((value: string, { signal }) => new Promise<never>((resolve) => asked.push({ value, signal, answer: resolve as never })));
  const gate = createGate(group({ crew: list('Crew', group({ name: text('Name', required(), ask) })) }), { initial: { crew: [{ name: 'Ann' }, { name: '' }] } });
  const crew = gate.list('crew');
  const [ann, empty] = crew.rows;
  const name = ann!.field('name');
  const listener: string[] = [];
  name.subscribe(() => listener.push(name.path));
  name.set('Anna');
  name.leave();
  expect(gate.state).toMatchObject({ errorCount: 1, pending: true, dirty: true });
  crew.move(0, 1);
  expect({ rows: crew.rows[1], path: name.path, raw: name.raw, pending: name.pending }).toEqual({ rows: ann, path: 'crew.1.name', raw: 'Anna', pending: true });
  expect(gate.findings).toMatchObject([{ path: 'crew.0.name', code: 'valueMissing' }]);
  crew.add({ name: 'Zoe' }, 0);
  expect({ path: gate.findings[0]!.path, 'name.path': name.path, map: crew.rows.map((row) => row.field('name').raw) }).toEqual({
    path: 'crew.1.name',
    'name.path': 'crew.2.name',
    map: ['Zoe', '', 'Anna'],
  });
  asked[0]!.answer('taken');
  await Promise.resolve().then(() => new Promise((resolve) => setTimeout(resolve)));
  expect(name.findings).toMatchObject([{ path: 'crew.2.name', message: 'taken' }]);
  crew.remove(1);
  expect({ map: gate.findings.map(({ path }) => path), removed: empty!.handle.removed, errorCount: gate.state.errorCount }).toEqual({
    map: ['crew.1.name'],
    removed: true,
    errorCount: 1,
  });
  empty!.field('name').set('ghost');
  expect(gate.root.raw).toEqual({ crew: [{ name: 'Zoe' }, { name: 'Anna' }] });
  name.set('Andrea');
  name.leave();
  crew.remove(1);
  expect({ aborted: asked[1]!.signal.aborted, state: gate.state }).toEqual({ aborted: true, state: expect.objectContaining({ errorCount: 0, pending: false, valid: true }) });
  gate.reset();
  expect({ raw: gate.root.raw, dirty: gate.state.dirty, errorCount: gate.state.errorCount }).toEqual({
    raw: { crew: [{ name: 'Ann' }, { name: '' }] },
    dirty: false,
    errorCount: 1,
  });
  expect(() => crew.remove(7)).toThrow('The list "crew" has no row 7: it has 2 rows.');
});

test('a list validates itself, and findings name its rows', () => {
  const gate = make();
  gate.list('crew').add({ name: 'Ann' });
  expect(gate.findings).toMatchObject([{ path: 'crew.2.name', code: 'duplicate', params: { first: 1 } }]);
  gate.list('crew').move(2, 0);
  expect(gate.findings).toMatchObject([{ path: 'crew.1.name', code: 'duplicate' }]);
  gate.field('crew.0.name').set('Cy');
  expect(gate.state.errorCount).toBe(0);
  gate.list('crew').add();
  expect(gate.findings.map(({ path, code }) => `${path}:${code}`)).toEqual(['crew.3.name:valueMissing', 'crew:tooMany']);
});

test('switching a variant keeps what was typed in the other case, and validates only the one that was chosen', () => {
  const gate = make();
  gate.set({ cargo: { cargo: 'goods', tonnes: '9' } });
  const tonnes = gate.field('cargo.tonnes');
  expect({ path: tonnes.path, 'count of findings': tonnes.findings.length, cargo: gate.root.data?.cargo }).toEqual({
    path: 'cargo.tonnes',
    'count of findings': 1,
    cargo: { cargo: 'goods', tonnes: 9 },
  });
  gate.field('cargo.cargo').set('none');
  expect({ applies: tonnes.applies, raw: tonnes.raw, valid: gate.state.valid, cargo: gate.root.data?.cargo }).toEqual({
    applies: false,
    raw: '9',
    valid: true,
    cargo: { cargo: 'none' },
  });
  gate.field('cargo.cargo').set('goods');
  expect({ raw: gate.field('cargo.tonnes').raw, errorCount: gate.state.errorCount }).toEqual({ raw: '9', errorCount: 1 });
});

test("a server's findings find their rows, wherever those are by then", async () => {
  let answer: (reply: unknown) => void = () => undefined;
  const gate = createGate(group({ crew: list('Crew', group({ name: text('Name') })) }), {
    initial: { crew: [{ name: 'Ann' }, { name: 'Bo' }, { name: 'Cy' }] },
    submit: () => new Promise((resolve) => (answer = resolve)),
  });
  const outcome = gate.submit();
  const crew = gate.list('crew');
  crew.move(0, 2);
  crew.remove(0); // Bo
  answer({ findings: [0, 1, 2].map((row) => ({ path: `crew.${row}.name`, message: `No ${row}` })) });
  await outcome;
  expect(gate.findings.map(({ path, message }) => `${path} ${message}`)).toEqual(['crew.0.name No 2', 'crew.1.name No 0']);
});

test('rows that are removed are let go: nothing that their conditions and rules read keeps them', async () => {
  setFlagsFromString('--expose-gc');
  const gc = runInNewContext('gc') as () => void;
  const crew = list('Crew', group({ name: text('Name'), permit: text('Permit'), age: number('Age') }));
  const gate = createGate(
    group({ dangerous: boolean('Dangerous'), crew })
      .with(appliesWhen({ crew: { permit: (it) => it.dangerous } }))
      .with(fieldRules({ crew: { name: check((_name, it) => !it.dangerous), age: range(depending((it) => ({ max: it.dangerous ? 60 : 99 }))) } })),
  );
  const rows = gate.list('crew');
  const gone = Array.from({ length: 20 }, () => new WeakRef(rows.add({ name: 'x' })));
  while (rows.length > 1) rows.remove(1);
  // (What the last one did may be on the stack still.)
  await new Promise(setImmediate);
  gc();
  expect(gone.filter((row) => row.deref()).length).toBeLessThanOrEqual(2);
});
