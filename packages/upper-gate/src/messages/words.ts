// A catalogue from the words of a language: what most languages can say in the form "label: what is wrong". A language
// file holds words alone; a language that wants other sentences writes its catalogue itself, as English does.

import type { Code, ReadKind, TextType, Wording } from './codes.ts';
import { fileTypes } from './fileTypes.ts';
import { bytes, inSteps, localeOf, nearestOf, plural, shown, type Forms } from './formats.ts';
import { formatText, type Catalogue, type MessageParams as P } from './text.ts';

/**
 * The words of a language. Slots stand for params: `{label}`; in `atLeast` and its like `#` stands for the limit.
 * `legible` (by kind of field; `{example}` stands for a number or date as the field reads it; `typedDate`: as a language writes dates) and `types` (by type of text) say what
 * to enter.
 */
export interface Words {
  readonly locale: string;
  readonly legible: Readonly<Record<ReadKind | 'typedDate', string>>;
  readonly types: Readonly<Record<TextType, string>>;
  readonly characters: Forms;
  readonly files: Forms;
  readonly choices: Forms;
  readonly rows: Forms;
  readonly tick: string;
  readonly choose: string;
  readonly fillIn: string;
  /** Between the label and what follows. */
  readonly colon: string;
  readonly anyLegible: string;
  readonly anyType: string;
  readonly atLeast: string;
  readonly atMost: string;
  readonly moreThan: string;
  readonly lessThan: string;
  readonly notBefore: string;
  readonly notAfter: string;
  readonly notBeforeOther: string;
  readonly afterOther: string;
  readonly notAfterOther: string;
  readonly beforeOther: string;
  /** The label of another field, where its number is a limit. */
  readonly quoted: string;
  readonly step: string;
  /** Behind it: the values `{nearest}` to the one that is wrong. */
  readonly suchAs: string;
  /** In place of `badInput`, of what a control shows but does not give away: half a date. */
  readonly incomplete: string;
  /** In place of `valueMissing`, where there is nothing to choose from as long as another field has no value. */
  readonly firstOther: string;
  /** In place of `unanswered`, where it is the options that could not be loaded. */
  readonly notLoaded: string;
  /** A week, by `{week}` and `{year}`. */
  readonly week: string;
  /** The files of a media type, each as a type. */
  readonly media: Readonly<Record<string, string>>;
  readonly differentFromOther: string;
  readonly duplicateRow: string;
  readonly notAllowed: string;
  readonly patternMismatch: string;
  readonly differs: string;
  readonly fileTooLarge: string;
  readonly fileType: string;
  readonly customError: string;
  readonly unknown: string;
  readonly unanswered: string;
  readonly crashed: string;
  readonly refused: string;
  readonly failed: string;
  /** What a counter says: `{used}` of `{max}`. */
  readonly count: string;
  /** What stands above a list of all errors. */
  readonly summary: Forms;
  /** The same where nothing is wrong but that something could not be checked. */
  readonly unchecked: string;
  /** What a group of boxes is, of which one must be ticked. */
  readonly required: string;
  /** What a box says that is ticked, or not, where it is read as text. */
  readonly yes: string;
  readonly no: string;
  readonly checking: string;
  readonly sending: string;
  readonly sent: string;
  readonly interrupted: string;
  /** `{summary}`: what stands above a list of all errors. */
  readonly stillRefused: string;
  readonly reset: string;
  /** `{label}` of the list, number of the `{row}`. */
  readonly rowAdded: string;
  readonly rowRemoved: string;
  /** `{to}`: its number by now. */
  readonly rowMoved: string;
}

/** Makes the catalogue of a language. */
export function catalogue(words: Words): Required<Pick<Catalogue, Code | Wording | 'locale'>> {
  const { locale, legible, types, characters, files, choices, rows, colon } = words;
  const week = (p: P): string => formatText(words.week, p);
  const placeOf = (p: P): string => localeOf(locale, p);
  const written = (p: P, value: unknown): string => shown(placeOf(p), value, week);
  const say = (label: string, what: string, limit = ''): string => `${label}${colon}${what.replace('#', () => limit)}`;
  const wordsFor = (table: Readonly<Record<string, string>>, key: unknown): string | undefined =>
    Object.hasOwn(table, String(key)) ? table[String(key)] : undefined;
  const things = (p: P, count: unknown): string =>
    plural(placeOf(p), count, p.holds === 'files' ? files : p.holds === 'options' ? choices : rows);
  const bound = (p: P, limit: unknown, moment: string, number: string, beyond: unknown, open: string): string =>
    beyond === undefined
      ? say(p.label, typeof limit === 'string' ? moment : number, written(p, limit))
      : say(p.label, open, written(p, beyond));
  const compared = (p: P, moment: string, number: string): string =>
    p['numeric'] === true ? say(p.label, number, formatText(words.quoted, p)) : formatText(moment, p);
  const mediaType = ({ type }: P): string => wordsFor(words.media, type) ?? String(type);
  const { notAllowed, patternMismatch, differs, customError, unknown, unanswered, crashed, refused, failed } = words;
  const { incomplete, firstOther, notLoaded, unchecked } = words;
  const { required, yes, no, checking, sending, sent, interrupted, stillRefused, reset, rowAdded, rowRemoved, rowMoved } = words;
  return {
    locale,
    required,
    yes,
    no,
    checking,
    sending,
    sent,
    interrupted,
    stillRefused,
    reset,
    rowAdded,
    rowRemoved,
    rowMoved,
    notAllowed,
    patternMismatch,
    differs,
    customError,
    unknown,
    unanswered,
    crashed,
    refused,
    failed,
    incomplete,
    firstOther,
    notLoaded,
    unchecked,
    week,
    mediaType,
    valueMissing: (p: P) =>
      formatText(p.holds === 'flag' ? words.tick : p.holds === 'option' || p.holds === 'options' ? words.choose : words.fillIn, p),
    badInput: ({ label, kind, example }: P) =>
      formatText(say(label, wordsFor(legible, kind === 'date' && example !== undefined ? 'typedDate' : kind) ?? words.anyLegible), {
        label,
        example: example ?? '3.5',
      }),
    typeMismatch: ({ label, type }: P) => say(label, wordsFor(types, type) ?? words.anyType),
    tooShort: (p: P) => say(p.label, words.atLeast, plural(placeOf(p), p['min'], characters)),
    tooLong: (p: P) => say(p.label, words.atMost, plural(placeOf(p), p['max'], characters)),
    tooFew: (p: P) => say(p.label, words.atLeast, things(p, p['min'])),
    tooMany: (p: P) => say(p.label, words.atMost, things(p, p['max'])),
    rangeUnderflow: (p: P) =>
      p['otherLabel'] === undefined
        ? bound(p, p['min'], words.notBefore, words.atLeast, p['above'], words.moreThan)
        : p['orSame'] === true
          ? compared(p, words.notBeforeOther, words.atLeast)
          : compared(p, words.afterOther, words.moreThan),
    rangeOverflow: (p: P) =>
      p['otherLabel'] === undefined
        ? bound(p, p['max'], words.notAfter, words.atMost, p['below'], words.lessThan)
        : p['orSame'] === true
          ? compared(p, words.notAfterOther, words.atMost)
          : compared(p, words.beforeOther, words.lessThan),
    stepMismatch: (p: P) =>
      say(p.label, words.step, inSteps(placeOf(p), p['step'], p.kind)) +
      (p['nearest'] === undefined ? '' : formatText(words.suchAs, { ...p, nearest: nearestOf(placeOf(p), p['nearest'], week) })),
    count: (p: P) => formatText(words.count, { ...p, used: written(p, p['used']), max: written(p, p['max']) }),
    summary: (p: P) => plural(placeOf(p), p['count'], words.summary),
    duplicate: (p: P) =>
      formatText(p['otherLabel'] === undefined ? words.duplicateRow : words.differentFromOther, { ...p, first: written(p, p['first']) }),
    fileTooLarge: (p: P) => formatText(words.fileTooLarge, { ...p, max: bytes(placeOf(p), p['max']) }),
    fileType: (p: P) => formatText(words.fileType, { ...p, accept: fileTypes(placeOf(p), p['accept'], mediaType) }),
  };
}
