import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
  appliesWhen,
  asyncCheck,
  check,
  choice,
  context,
  date,
  dictionary,
  fieldRules,
  fileSize,
  file,
  group,
  integer,
  isSchema,
  length,
  list,
  number,
  oneOf,
  pattern,
  range,
  recursive,
  required,
  requiredWhen,
  text,
  validate,
  variant,
  type Node,
} from 'upper-gate';
import { lint, LINT_IDS, recordPlaces, type LintId, type LintOptions } from 'upper-gate/lint';
import * as gallery from '../../../docs/lint/gallery.ts';

const idsOf = async (schema: Node, options?: LintOptions): Promise<readonly string[]> => (await lint(schema, options as never)).map(({ path, id }) => `${path} ${id}`.trim());

const exportOf = (id: string): string => id.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase());

test.each(Object.keys(LINT_IDS) as LintId[])('the gallery has a schema for %s, of which nothing else is found', async (id) => {
  const name = exportOf(id);
  const schema: unknown = gallery[name as keyof typeof gallery];
  expect(isSchema(schema)).toBe(true);
  const found = await lint(schema as Node, gallery.options[name]);
  expect(found.map((finding) => finding.id)).toEqual([id]);
  const [{ severity, what, samples }] = found as [(typeof found)[0]];
  // What is only not seen is never certain.
  expect(severity).toBe(samples === undefined ? LINT_IDS[id].severity : 'warning');
  expect(what).toMatch(/[.]$/);
});

test('two ranges leave a value, and cover each other, exactly where numbers say so', async () => {
  const values = Array.from({ length: 13 }, (_, i) => i - 6);
  const limit = fc.integer({ min: -4, max: 4 });
  const limits = fc
    .record({ low: fc.option(limit), high: fc.option(limit), isOpenBelow: fc.boolean(), isOpenAbove: fc.boolean() })
    .filter(({ low, high }) => (low !== null || high !== null) && (low === null || high === null || low <= high))
    .map(({ low, high, isOpenBelow, isOpenAbove }) => ({
      ...(low !== null && { [isOpenBelow ? 'above' : 'min']: low }),
      ...(high !== null && { [isOpenAbove ? 'below' : 'max']: high }),
    }));
  await fc.assert(
    fc.asyncProperty(limits, limits, async (a, b) => {
      const passing = (...rules: (typeof a)[]) => values.filter((each) => validate(integer('N', ...rules.map((rule) => range(rule))), String(each)).ok);
      const [all, first, second] = [passing(a, b), passing(a), passing(b)];
      fc.pre(first.length > 0 && second.length > 0);
      const found = await idsOf(integer('N', range(a), range(b)));
      expect(found.includes('no-value')).toBe(all.length === 0);
      // (Whole numbers hide a difference that the limits, which are for all numbers, may have.)
      if (found.includes('covered-rule')) expect([first, second].some((each) => each.length === all.length)).toBe(true);
    }),
    { numRuns: 40 },
  );
});

test.each([
  [length({ min: 2, max: 40 }, 'Between 2 and 40 characters, such as OT-1204'), undefined],
  [length({ max: 40 }, 'Fewer than 41 characters'), undefined],
  [length({ max: 40 }, 'At most {max} characters'), undefined],
  [length({ max: 1200 }, 'At most 1,200 characters'), undefined],
  [length({ max: 40 }, { message: { en: 'At most 40', de: 'Höchstens 30' } }), 'other-number'],
  [length({ max: 40 }, { message: ({ max }) => `At most ${Number(max) * 3} characters` }), 'other-number'],
  [length({ max: 40 }, 'At most {most} characters'), 'unknown-placeholder'],
  [pattern(/^\d{4}$/, 'Enter 4 digits'), undefined],
] as const)('a message states what its rule does: %#', async (rule, id) => {
  expect(await idsOf(text('Name', rule))).toEqual(id ? [id] : []);
});

test('numbers in other units, and dates, are those of the rule', async () => {
  const schema = group({
    certificate: file('Certificate', fileSize({ max: 2_000_000 }, 'At most 2 MB')),
    price: number('Price (cents)', range({ max: 5000 }, 'At most 50 euros')),
    day: date('Day', range({ min: '2027-03-01' }, 'Not before 1 March 2027')),
  });
  expect(await lint(schema)).toEqual([]);
});

test('what is meant to be as it is can be accepted, with a reason', async () => {
  const schema = group({ berth: text('Berth'), other: text('Berth') });
  expect(await lint(schema, { accept: { 'other same-label': 'as on the paper form' } })).toEqual([]);
  expect(await idsOf(schema, { accept: { 'other same-lable': 'a slip' } })).toEqual(['other same-label', 'needless-acceptance']);
  await expect(lint(schema, { accept: { 'other same-label': ' ' } })).rejects.toThrow('for no reason');
  await expect(lint({} as Node)).rejects.toThrow('This is not a schema');
});

test('what a group says of a field counts with what the field says itself', async () => {
  const berth = group({ berth: text('Berth', oneOf(['A1', 'Quay'])), beam: number('Beam (m)', range({ min: 5 })), name: text('Name', pattern(/^[A-Z]{2}$/)) });
  const rules = { berth: length({ max: 2 }), beam: range({ max: 3 }), name: length({ min: 4 }) };
  expect(await idsOf(berth.with(fieldRules(rules)))).toEqual(['berth refused-option', 'beam no-value', 'name no-value']);
});

test('values of the caller show what samples do not', async () => {
  const digits = (number: string): number => Array.from(number).reduce((sum, digit) => sum + Number(digit), 0);
  const hull = text(
    'Hull',
    pattern(/^\d{9}$/),
    check((number) => digits(number) === 80, 'Check the number'),
  );
  expect(await idsOf(hull)).toEqual(['never-passes']);
  expect(await idsOf(hull, { values: ['999999998'] })).toEqual([]);
  expect(await idsOf(group({ boats: list('Boats', group({ hull })) }), { values: [{ boats: [{ hull: '999999998' }] }] })).toEqual([]);
});

test('paths are those of the declaration, through rows, cases and entries', async () => {
  const twice = (): Node => text('Name', length({ max: 4 }), length({ max: 5 }));
  interface Lock {
    readonly name: string | undefined;
    readonly sides: readonly Lock[];
  }
  const lock: Node<Lock> = group({
    name: text('Name', length({ max: 4 }), length({ max: 5 })),
    sides: list(
      'Sides',
      recursive((): Node<Lock> => lock),
    ),
  });
  const schema = group({
    crew: list('Crew', group({ name: twice() })),
    cargo: variant('Cargo', 'load', { none: group({}), goods: group({ what: twice() }) }),
    tolls: dictionary('Tolls', twice()),
    lock,
  });
  expect(await idsOf(schema)).toEqual(['crew.name', 'cargo.what', 'tolls', 'lock.name'].map((path) => `${path} covered-rule`));
});

test('conditions and needs further in, and facts, are tried with what they mention', async () => {
  const widest = context<number>('widest', { schema: number('Widest', required()) });
  const boat = group({
    kind: choice('Kind', ['barge', 'canoe'], required()),
    tonnes: number('Tonnes'),
    crew: list('Crew', group({ role: text('Role'), permit: text('Permit') })),
    beam: number(
      'Beam (m)',
      check((beam) => beam <= widest.get() || `At most ${widest.get()} m`),
    ),
  })
    .with(appliesWhen({ tonnes: ({ kind }) => kind === 'barge' }))
    .with(
      fieldRules({
        crew: {
          permit: requiredWhen((it, member) => it.kind === 'barge' && (it.tonnes ?? 0) > 2000 && member.role === 'skipper'),
          role: check((role, it) => role !== 'Titan' || it.crew.length > 4),
        },
      }),
    );
  expect(await lint(boat, { context: [widest.of(5)] })).toEqual([]);
  // A file can give it, since the token has a schema.
  expect(await lint(boat, { context: [] })).toEqual([]);
});

test('nobody is asked, nothing that a function does ends it, and the same is found each time', async () => {
  let asked = 0;
  const Real = globalThis.Date;
  const schema = group({
    a: text(
      'A',
      length({ max: 9 }),
      asyncCheck(() => ((asked += 1), true), { name: 'ask' }),
    ),
    b: text(
      'B',
      check(() => ({ then: () => undefined }) as never),
      check(
        (b) =>
          ({
            get message() {
              throw new Error(b);
            },
          }) as never,
      ),
    ),
    c: number(
      {
        label: 'C',
        default: () => {
          throw new Error('no default');
        },
      },
      check((c) => c > Date.now()),
    ),
  }).with(
    appliesWhen({
      c: () => {
        throw new Error('no condition');
      },
    }),
  );
  const first = await lint(schema);
  expect([asked, globalThis.Date]).toEqual([0, Real]);
  expect(first.map(({ path, id }) => `${path} ${id}`)).toEqual(expect.arrayContaining(['b throws', 'c reads-clock']));
  expect(await lint(schema)).toEqual(first);
});

test('findings say where things were declared, once that is recorded', async () => {
  const before = text('Name', length({ max: 4 }), length({ max: 5 }));
  recordPlaces();
  const after = text('Name', length({ max: 4 }), length({ max: 5 }));
  const [[unplaced], [placed]] = await Promise.all([lint(before), lint(after)]);
  expect(unplaced).not.toHaveProperty('place');
  const line = new Error().stack!.split('\n').find((each) => each.includes('lint.test'))!;
  expect(placed!.place).toEqual({ file: __filename, line: Number(/:(\d+):\d+\)?$/.exec(line)![1]) - 3 });
});
