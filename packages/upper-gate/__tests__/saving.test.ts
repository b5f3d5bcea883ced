// What was edited since a form was saved: as data, as patches, and applied on a server.

import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import jsonPatch from 'fast-json-patch';
import mergePatch from 'json-merge-patch';
import * as library from 'upper-gate';
import { changesOf, keepSaved, markSaved, toJsonPatch, toMergePatch, type ChangesOf, type SavingRun } from 'upper-gate/saving';
import { applyMergePatch } from 'upper-gate/server';
import { same } from './types/same.ts';
import { runs } from './runs.ts';

const { appliesWhen, fieldRules, groupRules } = library;
const { boolean, check, choice, choices, context, createGate, date, dictionary, file, group, interval, length, list, mapped, number, range, required, requiredWhen } = library;
const { text, variant } = library;

const season = context('season', { fallback: 'summer' });
const passage = group({
  vessel: text('Vessel', required()),
  beam: number({ label: 'Beam', locale: 'auto' }),
  tug: text('Tug'),
  kit: choices('Kit', ['horn', 'lights']),
  ok: boolean('Fine'),
  stay: interval('Stay', date('From'), date('To')),
  paid: mapped(date('Paid'), {
    to: (day) => new Date(`${day}T00:00Z`),
    from: (when) => when.toISOString().slice(0, 10),
    toJson: (when) => when.toISOString(),
    fromJson: (text) => new Date(text as string),
  }),
  owner: group({ 'e/mail~': text('E-mail'), side: choice('Side', ['port', 'starboard']), lock: text('Lock') }),
  cargo: variant('Cargo', 'load', { goods: group({ tonnes: number('Tonnes'), seal: text('Seal') }), none: group({ seal: text('Seal') }) }),
  tolls: dictionary('Tolls', number('Toll', required())),
  crew: list('Crew', group({ name: text('Name', required()), age: number('Age') })),
})
  .with(appliesWhen({ tug: (it) => (it.beam ?? 0) > 4, owner: { lock: (it) => it.ok && season.get() === 'summer' } }))
  .with(fieldRules({ owner: { side: requiredWhen((it) => it.ok) } }));

const words = fc.constantFrom('', 'a', 'b', '3', '4.5', 'x y');
const numbers = fc.constantFrom('', '3', '5', '4.5', 'five', 7);
const values = fc.record(
  {
    vessel: words,
    beam: numbers,
    tug: words,
    kit: fc.subarray(['horn', 'lights']),
    ok: fc.boolean(),
    stay: fc.record({ from: fc.constantFrom('', '2027-05-01', 'x'), to: fc.constantFrom('', '2027-05-03') }),
    paid: fc.constantFrom('', '2027-05-01', '2027-05-02', 'never'),
    owner: fc.record({ 'e/mail~': words, side: fc.constantFrom('', 'port', 'starboard'), lock: words }, { requiredKeys: [] }),
    cargo: fc.record({ load: fc.constantFrom('', 'goods', 'none'), tonnes: numbers, seal: words }, { requiredKeys: [] }),
    tolls: fc.dictionary(fc.constantFrom('a', 'b', 'c/~d'), numbers, { noNullPrototype: true }),
    crew: fc.array(fc.record({ name: words, age: numbers }), { maxLength: 2 }),
  },
  { requiredKeys: [] },
);
const asJson = (value: unknown): unknown => JSON.parse(JSON.stringify(value));

test('patches applied to the saved data give that of now, and carry nothing that did not change', () => {
  fc.assert(
    fc.property(values, fc.array(values, { minLength: 1, maxLength: 3 }), fc.boolean(), (initial, edits, saves) => {
      const gate = createGate(passage, { initial: initial as never });
      if (saves) {
        gate.set(edits[0] as never);
        markSaved(gate);
      }
      expect([changesOf(gate), toMergePatch(gate), toJsonPatch(gate), gate.state.dirty]).toEqual([{}, {}, [], false]);
      const saved = asJson(gate.root.data);
      for (const edit of edits) gate.set(edit as never);
      const operations = toJsonPatch(gate);
      const merging = toMergePatch(gate);
      const applied = jsonPatch.applyPatch(structuredClone(saved), operations as never, true).newDocument;
      const whole = Object.values(gate.findings).every(({ code }) => code !== 'badInput');
      // What cannot be read is left as it was saved.
      if (whole) expect(applied).toEqual(asJson(gate.root.data));
      expect(mergePatch.apply(structuredClone(saved), merging)).toEqual(applied);
      expect(applyMergePatch(saved, merging)).toEqual(applied);
      // Each key that a patch carries is another there.
      const isNews = (patch: unknown, from: unknown): boolean =>
        typeof patch === 'object' && patch !== null && !Array.isArray(patch) && typeof from === 'object' && from !== null
          ? Object.entries(patch).every(([key, value]) => isNews(value, (from as Record<string, unknown>)[key]))
          : JSON.stringify(patch ?? undefined) !== JSON.stringify(from);
      expect(isNews(merging, saved) || Object.keys(merging).length === 0).toBe(true);
      expect(Object.keys(changesOf(gate)).sort()).toEqual(Object.keys(merging).sort());
    }),
    runs(200),
  );
});

test('what is changed, field by field: what was cleared, cannot be read, does not apply, is a file', () => {
  const initial = { vessel: 'Otter', beam: 3, tug: 'Heron', cargo: { load: 'goods', tonnes: 3, seal: 'S' }, crew: [{ name: 'Ada', age: 30 }] } as const;
  const edited = (edit: object): { changes: ChangesOf<typeof passage>; patch: unknown } => {
    const gate = createGate(passage, { initial });
    gate.set(edit);
    return { changes: changesOf(gate), patch: toMergePatch(gate) };
  };
  for (const [edit, changes, patch] of [
    [{ vessel: '' }, { vessel: undefined }, { vessel: null }],
    [{ beam: 'wide' }, {}, {}],
    [{ beam: '3.0', vessel: ' Otter ' }, {}, {}],
    [{ beam: '5' }, { beam: 5, tug: 'Heron' }, { beam: 5, tug: 'Heron' }],
    [{ owner: { 'e/mail~': 'a@b.c' } }, { owner: { 'e/mail~': 'a@b.c' } }, { owner: { 'e/mail~': 'a@b.c' } }],
    [{ paid: '2027-05-01' }, { paid: new Date('2027-05-01') }, { paid: '2027-05-01T00:00:00.000Z' }],
    // A list is there as a whole, or, where something in it cannot be read, not at all.
    [{ crew: [{ name: 'Bo' }] }, { crew: [{ name: 'Bo', age: undefined }] }, { crew: [{ name: 'Bo' }] }],
    [{ crew: [{ name: 'Bo', age: 'old' }] }, {}, {}],
    // Another case is another value.
    [{ cargo: { load: 'none' } }, { cargo: { load: 'none', seal: 'S' } }, { cargo: { load: 'none', tonnes: null } }],
    [{ cargo: { tonnes: 'x', seal: 'T' } }, { cargo: { load: 'goods', tonnes: 3, seal: 'T' } }, { cargo: { seal: 'T' } }],
    [{ cargo: { load: '' } }, { cargo: undefined }, { cargo: null }],
  ] as const)
    expect({ edit, ...edited(edit) }).toEqual({ edit, changes, patch });
  same<ChangesOf<typeof passage>['beam'], number | undefined>(true);
  const papers = createGate(group({ papers: list('Papers', group({ scan: file('Scan') })), raw: library.custom('Raw', { read: (raw: unknown) => raw }) }));
  papers.set({ papers: [{ scan: new File(['x'], 'a.pdf') }] });
  expect(() => toMergePatch(papers)).toThrow('"papers.0.scan" holds a File, which JSON cannot hold');
  expect(() => toJsonPatch(papers)).toThrow('"papers.0.scan"');
  papers.reset();
  const stamped = createGate(group({ at: library.custom('At', { read: (raw: unknown) => new Map([[raw, 1]]) }), b: text('B') }), { initial: { at: 'x' } });
  stamped.set({ b: 'y' });
  expect(changesOf(stamped)).toEqual({ b: 'y' });
  for (const [raw, problem] of [
    [{ a: { b: null } }, '"raw.a.b" holds null'],
    [{ a: 1n }, '"raw.a" holds a bigint'],
    [[Infinity], '"raw.0" holds Infinity'],
  ] as const) {
    papers.field('raw').set(raw);
    expect(() => toMergePatch(papers)).toThrow(problem);
  }
  papers.field('raw').set({ 'a.b/c': [null] });
  expect(toJsonPatch(papers)).toEqual([{ op: 'replace', path: '/raw', value: { 'a.b/c': [null] } }]);
});

test('what counts as saved moves: by acceptance, by rebase, by markSaved as of then; a reset leads back to it', async () => {
  let answer: unknown;
  const gate = createGate(group({ a: text('A'), b: text('B'), c: text('C'), rows: list('Rows', text('Row')) }).with(appliesWhen({ c: (it) => it.b !== 'x' })), {
    initial: { a: '1', b: '1', c: '1', rows: ['1'] },
    submit: () => answer,
  });
  gate.set({ a: '2', rows: ['2'] });
  await gate.submit();
  expect([changesOf(gate), gate.field('a').initial]).toEqual([{}, '1']);
  gate.set({ a: '3', b: 'x' });
  const { data } = gate.root;
  gate.set({ a: '4' });
  markSaved(gate, data);
  expect([changesOf(gate), toJsonPatch(gate), gate.state.dirty, gate.field('c').dirty]).toEqual([{ a: '4' }, [{ op: 'replace', path: '/a', value: '4' }], true, false]);
  gate.rebase({ b: '5' });
  expect([changesOf(gate), gate.root.data]).toEqual([{ a: '4' }, { a: '4', b: '5', c: '1', rows: ['2'] }]);
  gate.list('rows').add('9');
  markSaved(gate);
  gate.set({ a: '7', rows: [] });
  gate.reset();
  expect([gate.root.raw, gate.state.dirty]).toEqual([{ a: '4', b: '5', c: '1', rows: ['2', '9'] }, false]);
  // What waits for a fact that nobody has given does not apply.
  const tides = context<number>('tides');
  const later = createGate(group({ a: text('A'), b: text('B') }).with(appliesWhen({ b: () => tides.get() > 1 })), { initial: { b: 'x' } });
  expect(changesOf(later)).toEqual({});
  later.setContext(tides, 2);
  expect(changesOf(later)).toEqual({});
});

test('applying a merge patch: whatever it names, nothing else changes, and nothing in place', () => {
  const stored = { a: { b: 1, c: [1] }, d: 2 };
  const before = structuredClone(stored);
  for (const [patch, expected] of [
    [{}, stored],
    [
      { a: { b: null }, d: { e: 3 } },
      { a: { c: [1] }, d: { e: 3 } },
    ],
    [{ a: { c: [2, null] } }, { a: { b: 1, c: [2, null] }, d: 2 }],
    // Every key is data.
    [JSON.parse('{"__proto__": {"x": 1}, "a": {"constructor": null}}'), JSON.parse('{"a": {"b": 1, "c": [1]}, "d": 2, "__proto__": {"x": 1}}')],
    [[1], [1]],
    ['x', 'x'],
    [null, null],
  ] as const)
    expect(applyMergePatch(stored, patch)).toEqual(expected);
  expect([stored, ({} as Record<string, unknown>)['x']]).toEqual([before, undefined]);
  const deep = JSON.parse(`${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}`) as unknown;
  for (const [patch, limits, problem] of [
    [deep, {}, 'at most 8 levels'],
    [{ a: Array(2000).fill(0) }, {}, 'at most 1000 entries'],
    [Object.fromEntries(Array.from({ length: 2000 }, (_, i) => [`k${i}`, 1])), {}, 'At most 1000 values'],
    [{ a: { b: 1 } }, { depth: 1 }, 'at most 1 levels'],
    [{ a: 'é'.repeat(50) }, { bytes: 100 }, 'at most 100 bytes'],
  ] as const)
    expect(() => applyMergePatch(stored, patch, limits)).toThrow(problem);
  fc.assert(
    fc.property(fc.jsonValue({ maxDepth: 3 }), fc.jsonValue({ maxDepth: 3 }), (target, patch) => {
      // (What the reference leaves out, or trips over.)
      fc.pre(!/"(__proto__|constructor|prototype|hasOwnProperty)":/.test(JSON.stringify([target, patch])));
      expect(applyMergePatch(target, patch)).toEqual(mergePatch.apply(structuredClone(target), structuredClone(patch)));
    }),
    runs(200),
  );
});

const FIELDS = { a: text('A', length({ max: 3 })), b: text('B'), n: number('N') };
/** A server of one record, with its versions; and a clock that goes on when told. */
function harness(fields = FIELDS) {
  let timers: { at: number; run: () => void }[] = [];
  let now = 0;
  const clock = {
    now: () => new Date(now),
    setTimeout: (run: () => void, ms: number) => {
      const timer = { at: now + ms, run };
      timers.push(timer);
      return timer;
    },
    clearTimeout: (timer: unknown) => void (timers = timers.filter((each) => each !== timer)),
  };
  const settled = () => new Promise<void>((resolve) => void setImmediate(resolve));
  const pass = async (ms: number): Promise<void> => {
    now += ms;
    for (const { run } of timers.filter(({ at }) => at <= now)) run();
    timers = timers.filter(({ at }) => at > now);
    await settled();
  };
  const server = { stored: { a: '1', b: '1', n: 1 } as unknown, version: 1, under: 0, most: 0, requests: [] as unknown[], idle: 0 };
  const gate = createGate(group(fields), { initial: server.stored as never, clock });
  /** What the next answers are; then all is taken. */
  const answers: ('hold' | number | Error | object)[] = [];
  let release = (): void => undefined;
  const saving = keepSaved(gate, {
    etag: '"1"',
    save: async ({ mergePatch: patch, etag }: SavingRun) => {
      server.requests.push(patch);
      server.most = Math.max(server.most, (server.under += 1));
      try {
        let answer = answers.shift();
        while (answer === 'hold') {
          await new Promise<void>((resolve) => (release = resolve));
          answer = answers.shift();
        }
        if (answer instanceof Error) throw answer;
        if (etag !== `"${server.version}"`) answer = 412;
        if (answer !== undefined) return typeof answer === 'number' ? new Response(null, { status: answer }) : answer;
        const next = applyMergePatch(server.stored, patch);
        if (JSON.stringify(next) === JSON.stringify(server.stored)) server.idle += 1;
        server.stored = next;
        return new Response(null, { headers: { etag: `"${(server.version += 1)}"` } });
      } finally {
        server.under -= 1;
      }
    },
  });
  const stateOf = () => (saving.state.status === 'unsaved' ? saving.state.why : saving.state.status);
  return { gate, saving, server, answers, pass, settled, stateOf, release: () => release(), timers: () => timers.length };
}

test('saving: after a pause, one request at a time, what is changed and valid', async () => {
  const { gate, saving, server, answers, pass, settled, stateOf, release, timers } = harness();
  const told: string[] = [];
  saving.subscribe(() => told.push(stateOf()));
  const before = saving.state;
  expect([stateOf(), saving.state === before]).toEqual(['saved', true]);
  gate.set({ a: '2' });
  await pass(900);
  gate.set({ n: 'x', b: '2' });
  await pass(900);
  expect(server.requests).toEqual([]);
  answers.push('hold');
  await pass(100);
  // An unreadable value waits; edits made meanwhile are part of the next patch.
  gate.set({ a: '3' });
  await pass(5000);
  expect([stateOf(), server.requests]).toEqual(['saving', [{ a: '2', b: '2' }]]);
  release();
  await settled();
  expect([stateOf(), gate.field('b').dirty, gate.field('a').dirty, gate.field('b').initial]).toEqual(['edited', false, true, '2']);
  await pass(1000);
  expect([stateOf(), server.stored]).toEqual(['invalid', { a: '3', b: '2', n: 1 }]);
  gate.set({ n: 4, a: 'long' });
  await saving.saveNow();
  expect([stateOf(), server.stored, gate.state.dirty]).toEqual(['invalid', { a: '3', b: '2', n: 4 }, true]);
  gate.set({ a: '3' });
  await pass(1000);
  expect([stateOf(), server.requests.length, server.most, timers()]).toEqual(['saved', 3, 1, 0]);
  expect(told).toEqual(['edited', 'saving', 'edited', 'saving', 'invalid', 'edited', 'saving', 'invalid', 'saved']);
  gate.set({ b: '9' });
  gate.dispose();
  await pass(9000);
  expect([server.requests.length, timers()]).toEqual([3, 0]);
});

test('saving: conflicts, refusals and failures', async () => {
  const { gate, saving, server, answers, pass, stateOf } = harness();
  // Somebody else has saved in between: nothing is overwritten, nothing more is sent, until that is brought in.
  Object.assign(server, { stored: { a: '1', b: 'theirs', n: 1 }, version: 2 });
  gate.set({ a: '2' });
  await pass(1000);
  gate.set({ b: '3' });
  await pass(9000);
  expect([stateOf(), saving.state, server.requests.length]).toEqual(['conflict', { status: 'unsaved', why: 'conflict', reason: expect.any(Response) as unknown }, 1]);
  gate.rebase(server.stored as never);
  saving.resume('"2"');
  await pass(0);
  expect([stateOf(), server.stored]).toEqual(['saved', { a: '2', b: '3', n: 1 }]);
  // A refusal shows at its field, and is over with the next edit.
  answers.push({ errors: [{ pointer: '/b', detail: 'Taken' }] });
  gate.set({ b: '4' });
  await pass(1000);
  expect([stateOf(), gate.field('b').shown.map(({ message }) => message)]).toEqual(['refused', ['Taken']]);
  await pass(9000);
  gate.set({ b: '5' });
  await pass(1000);
  expect([stateOf(), gate.field('b').shown]).toEqual(['saved', []]);
  // Failures are tried again, later and later.
  answers.push(new Error('down'), 503);
  gate.set({ b: '6' });
  for (const [ms, state, count] of [
    [1000, 'failed', 1],
    [1999, 'failed', 1],
    [1, 'failed', 2],
    [3999, 'failed', 2],
    [1, 'saved', 3],
  ] as const) {
    const from = server.requests.length - (count - 1);
    await pass(ms);
    expect([ms, stateOf()]).toEqual([ms, state]);
    expect(server.requests.length).toBeGreaterThanOrEqual(from);
  }
  expect(server.stored).toEqual({ a: '2', b: '6', n: 1 });
  const { length: sent } = server.requests;
  saving.stop();
  gate.set({ b: '8' });
  await pass(9000);
  expect(server.requests.length).toBe(sent);
});

test('saving: a patch that cannot be written is reported, and not tried again before the next edit', async () => {
  const { gate, saving, server, pass, stateOf, timers } = harness({ ...FIELDS, n: file('Papers') as never });
  const faults: string[] = [];
  gate.on('fault', ({ rule, error }) => faults.push(`${rule}: ${(error as Error).message}`));
  gate.set({ n: new File([], 'a.pdf') as never });
  for (const count of [1, 2]) {
    await pass(1000);
    expect({ state: stateOf(), timers: timers(), faults: faults.length, requests: server.requests.length }).toEqual({ state: 'failed', timers: 0, faults: count, requests: 0 });
    gate.set({ b: `note ${count}` });
  }
  expect(faults[0]).toMatch(/^save: "n" holds a File/);
  expect(saving.state).toEqual({ status: 'unsaved', why: 'edited' });
  gate.dispose();
});

test('saving: whatever is edited and answered, nothing is lost and nothing is overwritten', async () => {
  const text3 = fc.constantFrom('', 'x', 'yy', 'long');
  const edit = fc.record({ a: text3, b: text3, n: fc.constantFrom('', '5', 'six') }, { requiredKeys: [] });
  const action = fc.oneof(
    fc.record({ set: edit }),
    fc.record({ pass: fc.constantFrom(500, 1000, 70_000) }),
    fc.record({ answer: fc.constantFrom<('hold' | number | Error | object)[]>('hold', 500, 412, new Error('down'), { errors: [{ pointer: '/a', detail: 'No' }] }) }),
    fc.record({ other: fc.constantFrom('p', 'q') }),
    fc.constant({ release: true }),
    fc.record({ during: edit }),
    fc.record({ push: text3, early: fc.boolean() }),
  );
  await fc.assert(
    fc.asyncProperty(fc.array(action, { maxLength: 14 }), async (actions) => {
      const { gate, saving, server, answers, pass, settled, stateOf, release } = harness();
      const bring = (): void => {
        if (stateOf() !== 'conflict') return;
        gate.rebase(server.stored as never);
        saving.resume(`"${server.version}"`);
      };
      for (const step of actions) {
        if ('set' in step) gate.set(step.set);
        else if ('pass' in step) await pass(step.pass);
        else if ('answer' in step) answers.push(step.answer);
        else if ('release' in step) release();
        else if ('push' in step) {
          // What somebody else has saved is brought in at once, also while a request is under way.
          if (step.early) answers.unshift('hold');
          await pass(1000);
          Object.assign(server, { stored: applyMergePatch(server.stored, { b: step.push || null }), version: server.version + 1 });
          gate.rebase({ b: step.push || null });
          saving.resume(`"${server.version}"`);
          release();
        } else if ('during' in step) {
          // Edited while a request is under way.
          answers.unshift('hold');
          await pass(1000);
          gate.set(step.during);
          release();
        }
        // Another person saves a field that is edited nowhere here.
        else Object.assign(server, { stored: applyMergePatch(server.stored, { c: step.other }), version: server.version + 1 });
        await settled();
        bring();
      }
      answers.length = 0;
      release();
      await settled();
      if (gate.field('n').raw === 'six') gate.set({ n: 7 });
      await pass(70_000);
      // What was refused waits for an edit.
      if (!gate.field('a').valid) gate.set({ a: 'end' });
      for (let i = 0; i < 4; i += 1) {
        await pass(70_000);
        bring();
      }
      const { c, ...ours } = server.stored as { c?: unknown };
      // No patch repeats what the server has.
      expect(server.idle).toBe(0);
      expect({ state: stateOf(), ours, most: server.most }).toEqual({ state: 'saved', ours: gate.root.data, most: Math.min(1, server.requests.length) });
      expect(c).toBe(actions.flatMap((step) => ('other' in step ? [step.other] : [])).at(-1));
      gate.dispose();
    }),
    runs(100),
  );
});

test('saving: rules between fields see the whole as it would be, with what is left as it was', async () => {
  const boat = group({ long: number('Length', range({ max: 9 })), wide: number('Beam', range({ max: 5 })), note: text('Note') })
    .with(fieldRules({ wide: check((wide, it) => wide <= (it.long ?? 0)) }))
    .with(groupRules(check((it) => (it.long ?? 0) * (it.wide ?? 0) <= 20)));
  const gate = createGate(boat, { initial: { long: 5, wide: 3 } });
  const sent: unknown[] = [];
  gate.set({ note: 'restored' });
  const saving = keepSaved(gate, { save: ({ changes }) => void sent.push(changes) });
  expect(saving.state).toEqual({ status: 'unsaved', why: 'edited' });
  for (const [edit, expected, state] of [
    // Wrong by itself, and in the whole for that: the rest can be saved.
    [{ wide: 99, note: 'a' }, { note: 'a' }, 'unsaved'],
    // Wrong in the whole alone: nothing can be.
    [{ wide: 5, note: 'b' }, undefined, 'unsaved'],
    // Wrong beside another: that one can be saved.
    [{ long: 4 }, { long: 4, note: 'b' }, 'unsaved'],
    [{ wide: 4 }, { wide: 4 }, 'saved'],
  ] as const) {
    gate.set(edit);
    await saving.saveNow();
    expect({ edit, sent: sent.pop(), state: saving.state.status }).toEqual({ edit, sent: expected, state });
  }
  gate.dispose();
});
