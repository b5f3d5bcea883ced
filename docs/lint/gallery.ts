// Faulty schemas, one for each id of `lint`. docs/lint.md shows what it says of them.

import {
  appliesWhen,
  asyncCheck,
  boolean,
  check,
  choice,
  context,
  custom,
  fieldRules,
  group,
  groupRules,
  length,
  list,
  number,
  oneOf,
  pattern,
  range,
  required,
  text,
} from 'upper-gate';
import type { LintOptions } from 'upper-gate/lint';

// Contradictions.

export const noValue = group({ berth: text('Berth', length({ min: 5 }), oneOf(['A1', 'B2'])) });

export const neverPasses = group({
  vessel: text(
    'Vessel name',
    check((name) => name.length < 2 && name.length > 3, 'Choose a shorter name'),
  ),
});

export const neverFails = group({ crew: number('Crew', range({})) });

export const coveredRule = group({ vessel: text('Vessel name', length({ max: 40 }), length({ max: 60 })) });

export const refusedOption = group({ berth: text('Berth', length({ max: 2 }), oneOf(['A1', 'B2', 'Quay'])) });

export const refusedDefault = group({ beam: number({ label: 'Beam (m)', default: 9 }, range({ max: 5.2 })) });

export const refusedInitial = group({ beam: number('Beam (m)', range({ max: 5.2 })) });

export const limitOffStep = group({ tonnes: number('Tonnes', range({ min: 1, max: 10, step: 4 })) });

export const throws = group({
  vessel: text(
    'Vessel name',
    check((name) => /^[A-Z]+/.exec(name)![0].length < 9, 'Fewer capital letters'),
  ),
});

// Words.

export const otherNumber = group({ vessel: text('Vessel name', length({ max: 40 }, 'Use at most 30 characters')) });

export const unknownPlaceholder = group({ vessel: text('Vessel name', length({ max: 40 }, 'Use at most {maximum} characters')) });

export const noText = group({
  beam: number(
    'Beam (m)',
    check((beam) => beam < 6, { code: 'tooWide' }),
  ),
});

export const noTranslation = group({ vessel: text({ label: { en: 'Vessel name', fr: 'Nom du bateau' } }) });

export const noLabel = group({
  stay: group({ from: text('From', required()), to: text('To', required()) }).with(groupRules(check((stay) => stay.from !== stay.to))),
});

export const sameLabel = group({ berth: text('Berth'), second: text('Berth') });

// Cost and safety.

export const hangingPattern = group({ cargo: text('Cargo', pattern(/^(\w+\s?)+$/, 'Words')) });

export const htmlPattern = group({ registration: text('Registration', pattern(/^[A-Z()]{2}-\d{4}$/, 'Two letters, a dash, four digits')) });

const isOnRegister = (): Promise<boolean> => Promise.resolve(true);

export const noPause = group({
  registration: text('Registration', length({ max: 7 }), asyncCheck(isOnRegister, { name: 'isOnRegister', debounce: 0 })),
});

export const noQuickRule = group({ registration: text('Registration', required(), asyncCheck(isOnRegister, { name: 'isOnRegister' })) });

export const readsClock = group({
  season: number(
    'Season',
    check((year) => year >= new Date().getFullYear(), 'This season, or a later one'),
  ),
});

export const squareCost = group({ crew: list('Crew', group({ name: text('Name', required()) })) }).with(
  fieldRules({
    crew: { name: check((name, { crew }) => crew.filter((member) => member.name === name).length === 1, 'Each name once') },
  }),
);

// Conditions.

export const circle = group({ tug: text('Tug'), pilot: text('Pilot') }).with(
  appliesWhen({ tug: (it) => it.pilot === undefined, pilot: (it) => it.tug === undefined }),
);

export const appliesByItself = group({ tug: text('Tug') }).with(appliesWhen({ tug: (it) => it.tug !== 'none' }));

export const neverApplies = group({ kind: choice('Kind', ['barge', 'canoe']), mast: number('Mast (m)', required()) }).with(
  appliesWhen({ mast: ({ kind }) => (kind as string | undefined) === 'yacht' }),
);

// Servers.

export const unnamedAsync = group({ registration: text('Registration', length({ max: 7 }), asyncCheck(isOnRegister)) });

const widest = context<number>('widest');
export const missingContext = group({
  beam: number(
    'Beam (m)',
    check((beam) => beam <= widest.get(), 'Too wide for the lock'),
  ),
});

export const privateInMessage = group({
  code: text(
    { label: 'Door code', private: true },
    check((code) => code.length === 4 || `${code} has not four characters`),
  ),
});

export const notInJson = group({
  callBack: boolean(
    'Call me back',
    check((given) => given),
  ),
});

export const notInHtml = group({
  outline: custom<readonly number[]>('Outline', { read: (raw) => (Array.isArray(raw) ? raw : undefined) }),
});

export const needlessAcceptance = group({ vessel: text('Vessel name') });

/** What some are used with. */
export const options: Readonly<Record<string, LintOptions>> = {
  refusedInitial: { initial: { beam: 9 } },
  missingContext: { context: [] },
  noText: { catalogues: [{ locale: 'en' }] },
  noTranslation: { catalogues: [{ locale: 'de' }] },
  notInJson: { exportedTo: ['json-schema'] },
  notInHtml: { exportedTo: ['html'] },
  needlessAcceptance: { accept: { 'vessel same-label': 'both stand on the paper form' } },
};
