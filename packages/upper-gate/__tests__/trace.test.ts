// What a form did, and why: entries, their format, sentences; and that nothing private gets in, whatever happens.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import fc from 'fast-check';
import * as library from 'upper-gate';
import { rehearse, toRehearsal, type Script } from 'upper-gate/testing';
import { explain, traceGate, type Entry } from 'upper-gate/trace';
import { conforms } from './conforms.ts';
import { runs } from './runs.ts';

const {
  appliesWhen,
  asyncCheck,
  asyncChoicesFrom,
  check,
  choice,
  context,
  createGate,
  fieldRules,
  group,
  groupRules,
  keepDraft,
  length,
  list,
  number,
  pattern,
  range,
  required,
  text,
} = library;

const schemaOf = (name: string) => JSON.parse(readFileSync(join(__dirname, `../schemas/${name}.schema.json`), 'utf8')) as Record<string, unknown>;
const isTrace = (value: unknown) => conforms(value, schemaOf('trace'));
const isScript = (value: unknown) => conforms(value, schemaOf('rehearsal'));
const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
const later = (ms = 0) => new Promise((resolve) => setTimeout(resolve, ms));

const tide = context<number>('tide');
const passage = group({
  vessel: text('Vessel', required(), length({ min: 2, max: 9 }), pattern(/^O/)),
  number: text(
    'Number',
    asyncCheck(
      async function isKnown(value: string) {
        await later(value === 'slow' ? 20 : 0);
        if (value === 'down') throw new Error('The register is down');
        return value !== 'bad' || 'Not on the register';
      },
      { debounce: 5 },
    ),
  ),
  beam: number('Beam', required()),
  weight: number('Weight', range({ max: 9 }, { on: 'submit' })),
  draught: number(
    'Draught',
    check((value) => value < tide.get() || 'Too deep'),
  ),
  tug: text('Tug', required()),
  berth: choice('Berth', ['a', 'b']),
  crew: list('Crew', text('Name', required()), length({ max: 2 })),
}).with(
  appliesWhen({ tug: (boat) => boat.beam > 4 }),
  fieldRules({
    vessel: check((vessel, boat) => (boat.beam > 8 ? `Too wide for ${vessel}` : true)),
    berth: asyncChoicesFrom(() => Promise.resolve(['a'])),
  }),
);

const made: { dispose(): void }[] = [];
beforeEach(() => {
  jest.useFakeTimers();
});
afterEach(() => {
  made.forEach((gate) => gate.dispose());
  jest.useRealTimers();
});
const pass = (ms: number) => jest.advanceTimersByTimeAsync(ms);
const make = ((...args: Parameters<typeof createGate>) => {
  const gate = createGate(...args);
  made.push(gate);
  return gate;
}) as typeof createGate;

test('every kind of entry, as the published schema has it; a cause for what was caused; a limit', async () => {
  const gate = make(passage, {
    context: [tide.of(3)],
    submit: (data) => (data.vessel === 'Otter' ? undefined : { errors: [{ path: 'vessel', message: 'Booked' }] }),
    onFault: () => undefined,
  });
  const trace = traceGate(gate, { withData: true });
  const storage = { getItem: () => '{"at":9e15,"edits":{"weight":"3"}}', setItem: () => undefined, removeItem: () => undefined };
  keepDraft(gate, { storage, key: 'x' });
  for (const value of ['slow', 'bad', 'down', '']) {
    gate.field('number').set(value);
    await pass(10);
  }
  gate.set({ vessel: 'Otters', beam: '5' });
  gate.field('vessel').leave();
  gate.field('beam').set('4');
  gate.list('crew').add('Ann');
  gate.list('crew').add('Bo');
  gate.list('crew').move(0, 1);
  gate.list('crew').remove(0);
  gate.setContext(tide, 4);
  gate.field('draught').set(1);
  const submitted = gate.submit();
  await pass(10);
  await submitted;
  gate.field('number').set('bad');
  await pass(10);
  gate.field('vessel').set('Otter');
  gate.rebase({ tug: 'Otter' });
  void gate.validate('vessel');
  await pass(10);
  gate.reset();
  await pass(30);
  const data = plain(trace.toJSON());
  // (One by one: so that it says which is wrong.)
  for (const entry of data.entries) expect([entry, isTrace({ ...data, entries: [entry] })]).toEqual([entry, true]);
  expect(isTrace({ ...data, entries: [{ ...data.entries[0]!, more: 1 }] })).toBe(false);
  const ofPage = ['focused', 'announced', 'hidden'];
  const kinds = [...JSON.stringify(schemaOf('trace')).matchAll(/"kind":\{"(?:const|enum)":(\[[^\]]*\]|"\w+")/g)].flatMap(([, names]) => [JSON.parse(names!) as string[]].flat());
  expect(kinds.filter((kind) => !ofPage.includes(kind) && !data.entries.some((entry) => entry.kind === kind))).toEqual([]);
  expect(data.entries.find(({ kind }) => kind === 'edited')).toMatchObject({ by: 'draft', path: 'weight', raw: '3' });
  expect(data.entries.find((entry) => entry.kind === 'submission' && entry.by === 'server')).toBeDefined();
  const causeOf = (entry: Entry) => data.entries.find(({ n }) => n === entry.cause);
  for (const entry of data.entries)
    if (entry.n > 5 && ['gone', 'shown', 'ran', 'answered', 'recalled'].includes(entry.kind)) expect([entry, causeOf(entry)]).toEqual([entry, expect.anything()]);
  const small = traceGate(gate, { limit: 3 });
  for (const value of ['a', 'b', 'c', 'd']) gate.field('vessel').set(value);
  expect([small.entries.length, small.toJSON().dropped > 3, small.entries.at(-1)!.n]).toEqual([3, true, small.toJSON().dropped + 3]);
  small.stop();
  gate.field('vessel').set('e');
  expect(JSON.stringify(small)).not.toContain('"e"');
});

test('sentences on ten situations, with a trace and without one', async () => {
  const gate = make(passage);
  const trace = traceGate(gate);
  const both = (path: string) => {
    const of = [explain(trace, path), explain(gate, path)].map((sentences) => sentences.join(' ').replace(/for \d+ ms/g, 'for 0 ms'));
    return of[0]!.replace(/has been shown for 0 ms|waits for a pause of 5 ms in typing/, (part) =>
      part.startsWith('waits') ? 'waits for a pause in typing, or for its answer' : 'is shown',
    ) === of[1]
      ? of[0]
      : of;
  };
  const tell = (path: string, expected: string | RegExp) => expect(both(path)).toMatch(expected);
  tell('vessel', `"Vessel" has the error valueMissing ("Vessel is required") from required. It is not shown yet: it shows when the user leaves the field (reveal: 'blur').`);
  gate.field('vessel').leave();
  tell('vessel', 'from required. It has been shown for 0 ms.');
  gate.field('vessel').set('Otter');
  tell('vessel', '"Vessel" has no findings. A rule waits for "Beam", which has no value yet. Until then it finds nothing.');
  tell('tug', '"Tug" does not apply: the condition (appliesWhen) waits for "Beam", which has no value yet.');
  gate.field('beam').set('2');
  tell('tug', '"Tug" does not apply: the condition (appliesWhen) does not hold; it reads "Beam".');
  gate.field('beam').set('x');
  tell('beam', /badInput .* from reading the value\. .* Its value cannot be read, so no other rule runs\./);
  gate.field('weight').set('50');
  tell('weight', 'range did not run: its moment has not come. It runs when the form is submitted.');
  tell('number', 'asyncCheck isKnown did not run: the field is empty.');
  gate.field('number').set('1');
  tell('number', 'asyncCheck isKnown waits for a pause of 5 ms in typing. Until then "Number" is pending.');
  gate.field('draught').set('1');
  tell('draught', /A rule waits for the fact "tide", .* A fact from outside, or its options, have not come/);
  gate.list('crew').add('');
  tell('crew', '"Crew" has no findings. Further in, there are errors at crew.0.');
  tell(
    '',
    /^The form is not valid: there are errors at .*beam.* Nobody sees those at beam.* It waits for async rules at number.* The fact "tide" was not given: call gate\.setContext\(\)\. No submission is under way\.$/,
  );
  await pass(20);
  expect(explain(gate, 'number')).toContain('asyncCheck isKnown has an answer to the value.');
  expect(() => explain(gate, 'nowhere')).toThrow('The form has no field "nowhere"');
});

// Random sessions: what was recorded, a rehearsal does again; and nothing private is told.
const SECRET = 'Marker-77';
const formOf = (isPrivate: boolean) =>
  group({
    code: text({ label: 'Code', private: isPrivate }, length({ min: 4 }), pattern(/^M/)),
    safe: group({ pin: text('Pin') }, { label: 'Safe', private: isPrivate }),
    again: text('Again'),
    vessel: text('Vessel', required(), length({ min: 2 })),
    crew: list('Crew', group({ name: text('Name', required()) }), length({ max: 2 })),
  }).with(
    appliesWhen({ again: (it) => it.code !== undefined }),
    fieldRules({
      again: check((again, it) => again === it.code || `Not ${it.code}: ${it.code?.toUpperCase()}`),
      vessel: asyncCheck(
        function isFree() {
          return true;
        },
        { debounce: 10, timeout: 500 },
      ),
    }),
    groupRules(check((it) => it.safe.pin !== SECRET || { message: `The pin is ${it.safe.pin}`, params: { pin: it.safe.pin } })),
  );
const secretive = formOf(true);
const sessions = (words: readonly string[], secret: readonly string[]) => {
  const word = fc.constantFrom(...words);
  const step = (of: Record<string, unknown>) =>
    fc.record(Object.fromEntries(Object.entries(of).map(([key, value]) => [key, value instanceof fc.Arbitrary ? value : fc.constant(value)])));
  const block = fc.oneof(
    fc.tuple(step({ enters: fc.constantFrom('code', 'safe.pin'), value: fc.constantFrom(...secret) })),
    fc.tuple(step({ enters: fc.constantFrom('again', 'vessel', 'crew.0.name'), value: word })),
    fc.tuple(step({ sets: fc.constantFrom('again', 'vessel'), value: word })),
    fc.tuple(step({ leaves: fc.constantFrom('code', 'again', 'vessel', 'crew') })),
    fc.tuple(step({ adds: 'crew', value: step({ name: word }), at: 0 }), step({ moves: 'crew', from: 1, to: 0 }), step({ waits: 3 }), step({ removes: 'crew', row: 1 })),
    fc.tuple(step({ waits: fc.constantFrom(5, 20, 300) })),
    fc.tuple(fc.constantFrom({ submits: true }, { validates: '', reveal: true }, { resets: '' }, { rebases: { vessel: 'Heron' } }, { finds: [{ path: 'vessel', message: 'No' }] })),
  );
  const answer = fc.oneof(
    step({ after: fc.constantFrom(0, 15, 60), answer: fc.constantFrom(true, `Taken by ${secret[0]!}`), reads: ['again'] }),
    step({ fails: secret[0]!, after: 7 }),
    step({ never: true }),
  );
  const reply = fc.oneof(step({ after: 30 }), step({ after: 5, refuse: [{ path: 'vessel', message: `Not with ${secret[0]!}` }] }), step({ after: 9, fails: secret[0]! }));
  return step({
    initial: { vessel: 'Otter', crew: [{ name: 'Ann' }] },
    answers: step({ isFree: fc.array(answer, { minLength: 80, maxLength: 80 }) }),
    submissions: fc.array(reply, { minLength: 30, maxLength: 30 }),
    steps: fc.array(block, { maxLength: 15 }).map((blocks) => blocks.flat()),
  }) as unknown as fc.Arbitrary<Script>;
};

test('nothing private gets into a trace, a timeline or an explanation', async () => {
  await fc.assert(
    fc.asyncProperty(sessions(['', 'O', 'Otter', SECRET], [SECRET, 'M', '']), async (script) => {
      const { timeline, trace, gate } = await rehearse(secretive, { ...script, steps: [{ enters: 'code', value: SECRET }, ...script.steps] }, { withData: true });
      const told = ['', 'code', 'again', 'vessel', 'crew'].map((path) => explain(gate, path).join());
      for (const part of [JSON.stringify(trace), JSON.stringify(timeline), ...told]) expect(part).not.toMatch(/marker-77/i);
    }),
    runs(60),
  );
});

test('a rehearsal made of a trace has the same timeline', async () => {
  const form = formOf(false);
  await fc.assert(
    fc.asyncProperty(sessions(['', 'O', 'Otter', 'Heron'], ['Mole', 'M', '', 'Otter']), async (script) => {
      expect(isScript(plain(script))).toBe(true);
      const { trace, timeline } = await rehearse(form, script);
      const { script: own, gaps } = await toRehearsal(form, plain(trace));
      expect([isScript(plain(own)), gaps]).toEqual([true, []]);
      expect((await rehearse(form, plain(own))).timeline).toEqual({ ...timeline, name: 'Rehearsal' });
    }),
    runs(60),
  );
});

test('what is private becomes a stand-in with the same findings; what has none is named', async () => {
  const steps = [...['Mo', 'Mole', '12', ''].map((value) => ({ enters: 'code', value })), { leaves: 'code' }, { waits: 5 }];
  const { trace, timeline } = await rehearse(secretive, { steps });
  const { script, gaps } = await toRehearsal(secretive, trace);
  const again = await rehearse(secretive, script);
  expect([gaps, again.timeline.lanes, again.timeline.moments]).toEqual([[], timeline.lanes, timeline.moments]);
  const odd = group({
    code: text(
      { label: 'Code', private: true },
      check((code) => code !== 'xyzzy'),
    ),
  });
  const made = await toRehearsal(odd, (await rehearse(odd, { steps: [{ enters: 'code', value: 'xyzzy' }] })).trace);
  expect(made.gaps).toEqual(['No stand-in with the same findings was found for the private value of "code": the rehearsal has another.']);
});
