// The raw values that are worth a try in a field: those at the limits of its rules first, then some that fit its kind, then some that
// do not. Which of them are right, its rules say.

import { patternRisk } from '../../rules/patternRisk.ts';
import { kindOfMoment, momentAt, momentText, type MomentKind } from '../../schema/calendar.ts';
import type { FieldPart } from '../../schema/field.ts';
import type { Params } from '../../schema/finding.ts';
import type { AnyRule } from '../../schema/rule.ts';
import type { FieldHolding } from '../../schema/traits.ts';
import { isRuleName, type RuleName } from '../../schema/vocabulary.ts';

/** Makes texts that an expression matches. */
export type MakeTexts = (pattern: RegExp) => readonly string[];

/** Values for a rule: on its right side, and just beyond. */
interface AtLimit {
  readonly right?: readonly unknown[];
  readonly wrong?: readonly unknown[];
}

const UNITS: Readonly<Record<MomentKind, number>> = { date: 86_400_000, week: 604_800_000, month: 1, time: 1000, dateTime: 1000 };
const MOMENTS: Readonly<Record<MomentKind, string>> = {
  date: '2027-05-01',
  time: '09:30',
  dateTime: '2027-05-01T09:30',
  month: '2027-05',
  week: '2027-W18',
};
const isMomentKind = (kind: string): kind is MomentKind => Object.hasOwn(MOMENTS, kind);

const LETTERS = 'Otter Heron Kingfisher Moorhen ';
const textOf = (length: number): string =>
  LETTERS.repeat(Math.ceil(length / LETTERS.length))
    .slice(0, length)
    .replace(/ $/, 'x');
/** (Longer ones are not worth the memory.) */
const LONGEST = 100_000;
const lengths = (of: unknown): readonly number[] => (typeof of === 'number' && of >= 0 && of <= LONGEST ? [of] : []);

const FILE_TYPES = [
  ['a.pdf', 'application/pdf'],
  ['a.png', 'image/png'],
  ['a.jpg', 'image/jpeg'],
  ['a.txt', 'text/plain'],
  ['a.csv', 'text/csv'],
  ['a.zip', 'application/zip'],
  ['a.mp4', 'video/mp4'],
  ['a.docx', 'application/vnd.openxmlformats-officedocument.wordprocessingml.document'],
] as const;
const file = (name: string, size: number, type: string): object => ({ name, size, type, slice: () => ({}) });

/** A value so many steps from a limit. */
function beside(limit: unknown, by: number): unknown {
  if (typeof limit === 'number') {
    // (0.1 + 0.2 is another number.)
    const digits = Math.max(0, ...[limit, by].map((each) => String(each).split('.')[1]?.length ?? 0));
    return String(Number((limit + by).toFixed(Math.min(20, digits))));
  }
  const kind = typeof limit === 'string' ? kindOfMoment(limit) : undefined;
  return kind && momentText(kind, momentAt(kind, limit as string)! + by * UNITS[kind]);
}

/** The values at a limit of a number or a moment. @param side 1: what lies above it is beyond; -1: what lies below */
const atLimit = (limit: unknown, side: 1 | -1, step: number, isOpen = false): AtLimit =>
  limit === undefined || limit === 'today'
    ? {}
    : isOpen
      ? { right: [beside(limit, -side * step)], wrong: [beside(limit, 0)] }
      : { right: [beside(limit, 0)], wrong: [beside(limit, side * step)] };

const both = (...limits: readonly AtLimit[]): AtLimit => ({
  right: limits.flatMap(({ right = [] }) => right),
  wrong: limits.flatMap(({ wrong = [] }) => wrong),
});

/** A text with one character more, less, or another: most are on the other side of what a rule says of texts. */
const mutants = (text: string): readonly string[] => [
  text.slice(0, -1),
  `${text}x`,
  text.slice(1),
  `x${text}`,
  `${text.slice(0, -1)}é`,
  'x',
];
const around = (right: readonly string[]): AtLimit => ({ right, wrong: [...new Set(right.flatMap(mutants))] });

const amongOptions = (options: unknown): AtLimit => ({ right: (options as readonly unknown[]).map(String), wrong: ['none of them'] });

/** What each rule makes worth a try. (Rules that read other values are tried by search.) */
const LIMITS: Readonly<Record<RuleName, ((params: Params, part: FieldPart, texts: MakeTexts) => AtLimit) | undefined>> = {
  required: ({}, { emptyRaw }) => ({ wrong: [emptyRaw] }),
  length: ({ min, max }, { traits: { holds } }) => {
    const make =
      holds === 'files' ? (n: number): unknown => Array.from({ length: n }, (_, i) => file(`${i}.pdf`, 1, 'application/pdf')) : textOf;
    const at = (limit: unknown, by: number): readonly unknown[] => lengths(limit).flatMap((n) => (n + by >= 0 ? [make(n + by)] : []));
    return { right: [...at(min, 0), ...at(max, 0)], wrong: [...at(min, -1), ...at(max, 1)] };
  },
  pattern: ({ pattern, flags }, _, texts) => around(texts(new RegExp(String(pattern), String(flags)))),
  email: () => around(['ann@locks.example', 'a@b.c']),
  url: ({ schemes }) => around([`${(schemes as readonly string[] | undefined)?.[0] ?? 'https'}://locks.example/`]),
  ipAddress: ({ version }) => around(version === 6 ? ['2001:db8::1'] : version === 4 ? ['192.0.2.1'] : ['192.0.2.1', '2001:db8::1']),
  cardNumber: () => around(['4111111111111111']),
  timestamp: ({ format }) => around([format === 'time' ? '09:30:00Z' : '2027-05-01T09:30:00Z']),
  uuid: () => around(['01890a5d-ac96-774b-bcce-b302099a8057']),
  range: ({ min, max, above, below, step }, { traits: { isStepped } }) => {
    const by = typeof step === 'number' ? step : isStepped ? 1 : typeof (min ?? max ?? above ?? below) === 'number' ? 0.5 : 1;
    return both(atLimit(min, -1, by), atLimit(max, 1, by), atLimit(above, -1, by, true), atLimit(below, 1, by, true));
  },
  step: ({ step, base = 0 }, { kind }) => {
    const from = isMomentKind(kind) && typeof base === 'number' ? MOMENTS[kind] : base;
    return {
      right: [0, 1, 2, 7].map((n) => beside(from, n * (step as number))),
      wrong: [beside(from, (step as number) / 2), beside(from, 1)],
    };
  },
  oneOf: ({ options = [] }) => amongOptions(options),
  fileSize: ({ max }) => ({
    right: [file('a.pdf', max as number, 'application/pdf')],
    wrong: [file('a.pdf', (max as number) + 1, 'application/pdf')],
  }),
  fileType: () => ({
    right: FILE_TYPES.map(([name, type]) => file(name, 1, type)),
    wrong: [file('a.unknown', 1, 'application/x-unknown')],
  }),
  requiredWhen: undefined,
  // (Once it has options.)
  choicesFrom: ({ options }) => (options ? amongOptions(options) : {}),
  asyncChoicesFrom: undefined,
  noDuplicates: undefined,
  sameAs: undefined,
  differsFrom: undefined,
  after: undefined,
  before: undefined,
  check: undefined,
  asyncCheck: undefined,
};

const NUMBERS = ['1', '2', '3.5', '10', '100', '0', '-1', '1000', '2027'];
const TEXTS = ['Otter', 'Heron', 'x', textOf(12), textOf(40), '12', '2027-05-01', 'a@b.c'];

/** Values by what a field holds. */
const BY_HOLDING: Readonly<Record<FieldHolding, (part: FieldPart) => readonly unknown[]>> = {
  value: ({ kind, traits: { measures, control, json } }) =>
    isMomentKind(kind)
      ? [0, 1, -1, 7, 30].map((by) => beside(MOMENTS[kind], by))
      : measures === 'number'
        ? NUMBERS
        : measures === 'moment'
          ? Object.values(MOMENTS)
          : control === 'color'
            ? ['#14505c', '#ffffff']
            : json === 'any'
              ? ['1', '"x"', '{"a":1}', '[1]', 'x', 1, 2]
              : TEXTS,
  option: ({ options = [] }) => options.map(({ value }) => value),
  options: ({ options = [] }) => {
    const all = options.map(({ value }) => value);
    return [...all.map((each) => [each]), ...all.map((_, i) => all.slice(0, i + 1)), []];
  },
  flag: () => [true, false],
  file: () => FILE_TYPES.map(([name, type]) => file(name, 1, type)),
  files: () => [[], ...FILE_TYPES.map(([name, type]) => [file(name, 1, type)])],
};
/** What fits no kind, or few. */
const STRANGE = ['not one of these', '12e', '2027-02-29'];

/** Values of one file, as a field of several holds them. */
const asHeld = ({ traits: { holds } }: FieldPart, value: unknown): unknown =>
  holds === 'files' && !Array.isArray(value) ? [value] : value;

/** The values at the limits of a rule on a field. */
export function limitsOf(part: FieldPart, { name, params }: AnyRule, texts: MakeTexts): readonly unknown[] {
  const { right = [], wrong = [] } = (isRuleName(name) ? LIMITS[name]?.(params, part, texts) : undefined) ?? {};
  return [...right, ...wrong].filter((each) => each !== undefined).map((each) => asHeld(part, each));
}

/** On longer texts, a pattern that can hang may do so. */
const LONGEST_AT_RISK = 12;

const canHang = ({ name, params, definition }: AnyRule): boolean =>
  name === 'pattern' && !definition && patternRisk(String(params['pattern']), String(params['flags'])) !== undefined;

/** Leaves out the values on which a pattern of the field may hang. */
export const harmless = (part: FieldPart, values: readonly unknown[]): readonly unknown[] =>
  part.ruleList.some(canHang) ? values.filter((each) => typeof each !== 'string' || each.length <= LONGEST_AT_RISK) : values;

/** What a field may be tried with, the values at the limits of its rules first. */
export function candidatesOf(part: FieldPart, texts: MakeTexts): readonly unknown[] {
  const usual = [...BY_HOLDING[part.traits.holds](part), part.emptyRaw, ...STRANGE].map((each) => asHeld(part, each));
  const all = new Set([...part.ruleList.flatMap((rule) => limitsOf(part, rule, texts)), ...usual]);
  return harmless(
    part,
    [...all].filter((each) => each !== undefined),
  );
}
