// A catalogue from the words of a language: what most languages can say in the form "label: what is wrong". A language
// file holds words alone; a language that wants other sentences writes its catalogue itself, as English does.

import type { Code, ReadKind, TextType, Wording } from './codes.ts';
import { bytes, plural, shown, type Forms } from './formats.ts';
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
  readonly step: string;
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
  const say = (label: string, what: string, limit = ''): string => `${label}${colon}${what.replace('#', () => limit)}`;
  const wordsFor = (table: Readonly<Record<string, string>>, key: unknown): string | undefined =>
    Object.hasOwn(table, String(key)) ? table[String(key)] : undefined;
  const things = (holds: unknown, count: unknown): string =>
    plural(locale, count, holds === 'files' ? files : holds === 'options' ? choices : rows);
  const bound = (limit: unknown, moment: string, number: string, beyond: unknown, open: string): [string, string] =>
    beyond === undefined ? [typeof limit === 'string' ? moment : number, shown(locale, limit)] : [open, shown(locale, beyond)];
  const { notAllowed, patternMismatch, differs, customError, unknown, unanswered, crashed, refused, failed, fileType } = words;
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
    fileType,
    valueMissing: (p: P) =>
      formatText(p.holds === 'flag' ? words.tick : p.holds === 'option' || p.holds === 'options' ? words.choose : words.fillIn, p),
    badInput: ({ label, kind, example }: P) =>
      formatText(say(label, wordsFor(legible, kind === 'date' && example !== undefined ? 'typedDate' : kind) ?? words.anyLegible), {
        label,
        example: example ?? '3.5',
      }),
    typeMismatch: ({ label, type }: P) => say(label, wordsFor(types, type) ?? words.anyType),
    tooShort: ({ label, min }: P) => say(label, words.atLeast, plural(locale, min, characters)),
    tooLong: ({ label, max }: P) => say(label, words.atMost, plural(locale, max, characters)),
    tooFew: ({ label, holds, min }: P) => say(label, words.atLeast, things(holds, min)),
    tooMany: ({ label, holds, max }: P) => say(label, words.atMost, things(holds, max)),
    rangeUnderflow: (p: P) =>
      p['otherLabel'] === undefined
        ? say(p.label, ...bound(p['min'], words.notBefore, words.atLeast, p['above'], words.moreThan))
        : formatText(p['orSame'] === true ? words.notBeforeOther : words.afterOther, p),
    rangeOverflow: (p: P) =>
      p['otherLabel'] === undefined
        ? say(p.label, ...bound(p['max'], words.notAfter, words.atMost, p['below'], words.lessThan))
        : formatText(p['orSame'] === true ? words.notAfterOther : words.beforeOther, p),
    stepMismatch: ({ label, step }: P) => say(label, words.step, shown(locale, step)),
    count: (p: P) => formatText(words.count, { ...p, used: shown(locale, p['used']), max: shown(locale, p['max']) }),
    summary: ({ count }: P) => plural(locale, count, words.summary),
    duplicate: (p: P) =>
      formatText(p['otherLabel'] === undefined ? words.duplicateRow : words.differentFromOther, { ...p, first: shown(locale, p['first']) }),
    fileTooLarge: (p: P) => formatText(words.fileTooLarge, { ...p, max: bytes(locale, p['max']) }),
  };
}
