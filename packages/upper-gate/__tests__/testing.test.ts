// Forms without a page: rehearsals, what they refuse, and samples of every kind and rule.

import { afterEach, expect, jest, test } from '@jest/globals';
import fc from 'fast-check';
import * as library from 'upper-gate';
import { arbitraryOf, rehearse, RehearsalError, samples, timelineText, type Script } from 'upper-gate/testing';
import { runs } from './runs.ts';

const {
  after,
  appliesWhen,
  asyncCheck,
  asyncChoicesFrom,
  boolean,
  check,
  choice,
  choices,
  color,
  context,
  createGate,
  date,
  dictionary,
  email,
  fieldRules,
  file,
  fileSize,
  fileType,
} = library;
const {
  files,
  group,
  groupRules,
  integer,
  length,
  list,
  month,
  noDuplicates,
  number,
  oneOf,
  pattern,
  range,
  recursive,
  required,
  requiredWhen,
  sameAs,
  step,
  text,
  time,
  url,
  validate,
  variant,
  week,
} = library;

const never = (): never => {
  throw new Error('The author is asked.');
};
const passage = group({
  vessel: text('Vessel', required()),
  registration: text(
    'Registration',
    required(),
    pattern(/^[A-Z]{2}-\d{4}$/, 'Two letters, a dash, four digits'),
    asyncCheck(
      function isOnRegister() {
        return never();
      },
      { debounce: 300 },
    ),
  ),
  harbour: choice('Harbour', ['Oster', 'Wester']),
  berth: text('Berth'),
}).with(
  fieldRules({
    berth: asyncChoicesFrom(function berths({ siblings }) {
      return [siblings.harbour ?? ''];
    }),
  }),
);
const berths = () => ({ after: 50, options: ['B1', 'B2'], reads: ['harbour'] });

afterEach(() => {
  jest.useRealTimers();
});

test.each([false, true])('answers that come in the wrong order, a refusal and its correction: the same bytes each time (fake timers: %s)', async (isFake) => {
  if (isFake) jest.useFakeTimers();
  const play = () =>
    rehearse(
      passage,
      async (user, answers) => {
        answers.rule('isOnRegister', [{ after: 900, answer: true }, { after: 200, answer: 'Not on the register' }, { after: 10 }]);
        answers.rule('berth', berths);
        answers.submission([{ after: 300, refuse: [{ path: 'registration', message: 'Already booked' }] }, { after: 300 }]);
        await user.enters('vessel', 'Otter');
        await user.types('registration', 'OT-1204', { pace: 120 });
        await user.seesNothing('vessel');
        await user.waits(500);
        await user.sees('registration', 'Checking Registration');
        await user.enters('registration', 'OT-1205');
        await user.leaves('registration');
        await user.waits();
        await user.sees('registration', 'Not on the register');
        await user.enters('registration', 'OT-1206');
        await user.submits();
        await user.waits();
        await user.sees('registration', 'Already booked');
        await user.expects('', { status: 'refused', valid: false });
        await user.enters('registration', 'OT-1204');
        answers.rule('isOnRegister', [{ after: 20 }]);
        await user.submits();
        await user.waits();
        await user.expects('', { status: 'accepted' });
        await user.expects('berth', { options: ['B1', 'B2'], codes: [] });
      },
      { name: 'Wrong order' },
    );
  const [one, two] = [await play(), await play()];
  expect(JSON.stringify(one.timeline)).toBe(JSON.stringify(two.timeline));
  const drawn = timelineText(one.timeline, { width: 90 });
  expect(drawn.split('\n').filter((line) => line.length > 90 && !/^ *\d* {2}/.test(line))).toEqual([]);
  expect(drawn).toMatch(
    /^Wrong order\n\nms +0 .*\n[^]*registration\n {2}user +▪ +▪[^]*\n {2}isOnRegister +┄+━+╳?━+●[^]*○ too late[^]*1220 {2}registration +the user enters "OT-1205"/,
  );
  expect(one.trace.entries.filter(({ kind }) => kind === 'cameLate')).toHaveLength(1);
  expect(one.gate.field('vessel').data).toBe('Otter');
});

test.each<[string, Script['steps'][number] | ((script: Script) => Script), string | RegExp]>([
  ['a message that is not there', { sees: 'vessel', text: 'Taken' }, 'Expected to see "Taken" at "vessel". There is nothing.'],
  ['a message that is there', { seesNothing: 'registration' }, 'Expected to see nothing at "registration". There is "Two letters, a dash, four digits".'],
  ['another state', { expects: 'vessel', required: false }, 'Expected required false at "vessel"; it is true.'],
  ['a state that no field has', { expects: 'vessel', colour: 1 } as never, /^A field has no state "colour". Expect one of path, /],
  ['a field that is not there', { leaves: 'nowhere' }, /no field "nowhere"/],
  ['a step that is none', { jumps: 1 } as never, 'This is no step: {"jumps":1}.'],
  ['a context that nobody gave', { learns: 'tide', value: 1 }, 'Nobody gave the context "tide".'],
  [
    'a rule without an answer',
    { enters: 'registration', value: 'OT-1204' },
    'Nobody answers the async rule isOnRegister of "registration". Add answers.rule("isOnRegister", [{ after: 200, answer: true }]).',
  ],
  [
    'a rule with too few answers',
    (script) => ({ ...script, answers: { ...script.answers, isOnRegister: [] }, steps: [{ enters: 'registration', value: 'OT-1204' }, { waits: 500 }] }),
    'has run 1 times; answers.rule("isOnRegister") has 0. Add one.',
  ],
  [
    'a submission with too few',
    (script) => ({
      ...script,
      submissions: [],
      initial: { vessel: 'O', registration: 'OT-1204' },
      answers: { ...script.answers, isOnRegister: [{}] },
      steps: [{ submits: true }, { waits: 'quiet' }],
    }),
    'This is submission 1; answers.submission() has 0. Add one.',
  ],
  [
    'what never ends',
    (script) => ({
      ...script,
      answers: { ...script.answers, isOnRegister: [{ never: true }] },
      submissions: [{ never: true }],
      initial: { vessel: 'O', registration: 'OT-1204' },
      steps: [{ submits: true }, { waits: 'quiet' }],
    }),
    'Something is still under way',
  ],
])('refuses %s', async (_, step, message) => {
  const script: Script = {
    answers: { berth: [{ options: ['B1'] }] },
    steps: [{ enters: 'registration', value: 'x' }, { leaves: 'registration' }, ...(typeof step === 'function' ? [] : [step]), { waits: 500 }],
  };
  const failed = rehearse(passage, typeof step === 'function' ? step(script) : script);
  await expect(failed).rejects.toThrow(message);
  const error = (await failed.catch((thrown: unknown) => thrown)) as RehearsalError | TypeError;
  // Whoever reads it sees what led there.
  if (error instanceof RehearsalError) expect(error.message).toContain(timelineText(error.timeline));
});

test('names of rules: one that several have, one that none has; by path, by row, by both', async () => {
  async function isKnown() {
    await Promise.resolve();
    return never();
  }
  const crew = group({ skipper: text('Skipper', asyncCheck(isKnown)), crew: list('Crew', group({ name: text('Name', asyncCheck(isKnown, { debounce: 0 })) })) });
  const answering = (...which: string[]) =>
    rehearse(crew, async (user, answers) => {
      which.forEach((name, i) => answers.rule(name, [{ answer: `From ${i}` }, { answer: `Again ${i}` }]));
      await user.adds('crew', { name: 'Ann' });
      await user.adds('crew', { name: 'Bo' });
      await user.submits();
      await user.waits();
    });
  await expect(answering('isKnown')).rejects.toThrow('2 async rules are called "isKnown". Name the field in place of the rule');
  await expect(answering('isUnknown')).rejects.toThrow('The schema has no async rule "isUnknown", and no field of that path. Its async rules: isKnown.');
  const messages = async (...which: string[]) => (await answering(...which)).gate.findings.map((finding) => finding.message);
  expect(await messages('crew.name')).toEqual(['From 0', 'Again 0']);
  expect(await messages('crew.name isKnown', 'crew.1.name')).toEqual(['From 0', 'From 1']);
});

test('facts from outside, values from outside, options of the form', async () => {
  const tide = context<number>('tide');
  const form = group({
    draught: number(
      'Draught',
      check((value) => value < tide.get() || 'Too deep'),
    ),
    note: text('Note', required()),
  });
  const { gate } = await rehearse(
    form,
    {
      start: '2027-06-01T00:00:00Z',
      reveal: 'change',
      show: 'first',
      initial: { draught: 2 },
      context: { tide: 1 },
      steps: [
        { enters: 'draught', value: 3 },
        { sees: 'draught', text: 'Too deep' },
        { learns: 'tide', value: 4 },
        { seesNothing: 'draught' },
        { sets: 'note', value: 'x' },
        { rebases: { note: 'y' } },
        { expects: 'note', raw: 'x', dirty: true },
        { resets: 'note' },
        { expects: 'note', raw: 'y' },
        { finds: [{ path: 'note', message: 'No' }] },
        { sees: 'note', text: 'No' },
        { validates: ['note', 'draught'] },
        { resets: '', value: { note: 'z' } },
        { expects: '', dirty: false, data: { note: 'z' } },
      ],
    },
    { context: [tide.of(9)] },
  );
  expect(gate.state.status).toBe('editing');
});

interface Lock {
  name: string;
  sides: Lock[];
}
const lock: library.Node<Lock> = group({
  name: text('Name', required()),
  sides: list(
    'Sides',
    recursive((): library.Node<Lock> => lock),
    length({ max: 2 }),
  ),
});
const wide = group({
  vessel: text('Vessel', required(), length({ min: 2, max: 40 })),
  registration: text('Registration', required(), pattern(/^[A-Z]{2}-\d{4}$/)),
  email: text('E-mail', email({ dot: true })),
  again: text('Again'),
  site: text('Site', url({ schemes: ['https'] })),
  beam: number('Beam', required(), range({ min: 0.5, max: 5.2 })),
  depth: number('Depth', range({ above: 0, below: 3 }), step(0.5)),
  gates: integer('Gates', range({ min: 1, max: 12 })),
  kind: choice('Kind', ['barge', 'canoe', 'yacht'], required()),
  kit: choices('Kit', ['lights', 'horn'], length({ min: 1 })),
  canal: text('Canal', oneOf(['Upper', 'Lower'])),
  from: date('From', required(), range({ min: '2027-01-01' })),
  to: date('To'),
  at: time('At', step(900)),
  month: month('Month', range({ max: '2030-12' })),
  week: week('Week'),
  flag: color('Flag'),
  paper: file('Paper', fileSize({ max: 1000 }), fileType('.pdf')),
  photos: files('Photos', length({ max: 2 })),
  ok: boolean('Agreed', required()),
  phone: text('Phone'),
  tug: text('Tug', required()),
  crew: list('Crew', group({ name: text('Name', required()), age: number('Age') }), length({ min: 1, max: 3 }), noDuplicates({ by: 'name' })),
  load: variant('Cargo', 'cargo', { none: group({}), goods: group({ tonnes: number('Tonnes', required()) }) }, required()),
  tolls: dictionary('Tolls', number('Toll', required())),
  lock,
  odd: number(
    'Odd',
    check((value) => value % 2 === 1),
  ),
}).with(
  appliesWhen({ tug: (boat) => boat.beam > 4 }),
  fieldRules({
    again: sameAs('email'),
    to: after('from'),
    phone: requiredWhen((boat) => boat.ok && boat.kind === 'yacht'),
    crew: { age: requiredWhen((_, member: { readonly name: string }) => member.name === 'Otter') },
  }),
  groupRules(check((boat) => boat.kind !== 'canoe' || boat.beam < 2 || 'A canoe is narrow')),
);

test('samples: right ones, and for each rule some that just pass and just fail; whole values and forms agree', async () => {
  const { valid, limits, gaveUp } = await samples(wide, { seed: 7, count: 6, near: 'limits' });
  expect([valid.length, gaveUp]).toEqual([6, []]);
  expect(new Set(valid.map((raw) => JSON.stringify(raw))).size).toBe(6);
  for (const raw of valid) expect(validate(wide, raw).findings).toEqual([]);
  for (const { path, rule, raw, expected } of limits) {
    const { findings } = validate(wide, raw);
    const at = findings.filter((finding) => finding.path === path || (rule === 'noDuplicates' && finding.path.startsWith(path))).map(({ code }) => code);
    expect([path, rule, at]).toEqual([path, rule, expected === undefined ? [] : expect.arrayContaining([expected])]);
    const gate = createGate(wide, { initial: raw });
    expect(gate.findings).toEqual(findings);
    gate.dispose();
  }
  const tried = (path: string, rule: string) =>
    limits
      .filter((each) => each.path === path && each.rule === rule)
      .map(({ raw, expected }) => [path.split('.').reduce<unknown>((of, key) => (of as Record<string, unknown>)[key], raw), expected]);
  expect(tried('beam', 'range')).toEqual([
    ['0.5', undefined],
    ['5.2', undefined],
    ['0', 'rangeUnderflow'],
    ['5.7', 'rangeOverflow'],
  ]);
  expect(tried('depth', 'range').map(([, code]) => code)).toEqual(expect.arrayContaining(['rangeUnderflow', 'rangeOverflow', undefined]));
  expect(tried('crew', 'length').map(([rows, code]) => [(rows as unknown[]).length, code])).toEqual(
    expect.arrayContaining([
      [0, 'tooFew'],
      [4, 'tooMany'],
    ]),
  );
  expect(JSON.stringify(await samples(wide, { seed: 7, count: 6 }))).toBe(JSON.stringify({ valid, limits: [], gaveUp: [] }));
});

test('what no search finds is told', async () => {
  const odd = group({
    word: text(
      'Word',
      check((word) => word === 'xyzzy' || 'No'),
    ),
    any: text(
      'Any',
      check(() => true),
    ),
  });
  const { gaveUp } = await samples(odd, { near: 'limits' });
  expect(gaveUp.map(({ path, rule, what }) => [path, rule, what])).toEqual([
    ['word', 'check', 'pass'],
    ['any', 'check', 'fail'],
  ]);
  expect(
    (
      await samples(
        group({
          word: text(
            'Word',
            required(),
            check((word) => word === 'xyzzy'),
          ),
        }),
      )
    ).gaveUp,
  ).toMatchObject([{ path: 'word', what: 'value' }]);
});

test('an arbitrary of a schema: fields are right by their own rules', () => {
  const own = new Set(['tooShort', 'tooLong', 'patternMismatch', 'typeMismatch', 'badInput', 'stepMismatch', 'notAllowed', 'rangeOverflow', 'fileTooLarge', 'fileType']);
  fc.assert(
    fc.property(arbitraryOf(wide, fc), (raw) => {
      expect(validate(wide, raw).findings.filter(({ code }) => own.has(code))).toEqual([]);
    }),
    runs(100),
  );
});

test('a handle and a gate print what they are, and nothing private', () => {
  const gate = createGate(group({ vessel: text('Vessel', required()), pin: text({ label: 'Pin', private: true }) }), { initial: { pin: '1234' } });
  const shown = (what: object) => (what as { [key: symbol]: () => object })[Symbol.for('nodejs.util.inspect.custom')]!();
  expect(shown(gate.field('vessel'))).toMatchObject({ path: 'vessel', raw: '', findings: [{ code: 'valueMissing' }], touched: false, valid: false });
  expect(JSON.stringify([shown(gate), gate.field('pin')])).not.toContain('1234');
});
