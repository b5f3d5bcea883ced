// Message texts: what a catalogue holds, and how a text becomes the sentence that a person reads.

import { DEV, explain, told, warnOnce } from '#development';
import type { Code, Wording } from './codes.ts';

/** What a message can use: the label of the field, and the params of the rule (`min`, `max`, ...). */
export interface MessageParams {
  readonly label: string;
  /** The kind of the field. */
  readonly kind?: string;
  /** What the field holds: `'value'`, `'option'`, `'options'`, `'flag'`, `'file'`, `'files'`, `'rows'`, ... */
  readonly holds?: string;
  /** The language, by its tag. */
  readonly locale?: string;
  readonly [param: string]: unknown;
}

/** A text, or one for each language by its tag: `{ en: 'Beam', fr: 'Largeur' }`. Other languages use the first. */
export type Label = string | { readonly [language: string]: string };

/**
 * A message: a string with slots for params (`{name}`), one such string for each language, or a function of the params.
 *
 * @example
 * length({ max: 40 }, 'At most {max} characters')
 * length({ max: 40 }, { message: { en: 'At most {max} characters', de: 'Höchstens {max} Zeichen' } })
 * length({ max: 40 }, { message: ({ label, max }) => `${label}: at most ${max} characters` })
 */
export type Text = Label | ((params: MessageParams) => string);

/** Messages by code. */
export interface Texts extends Readonly<Partial<Record<Code, Text | undefined>>> {
  /** Messages of your codes (`check(..., { code: 'tooWide' })`). */
  readonly own?: { readonly [code: string]: Text };
}

/**
 * The messages of one language: a text for each code of finding. A module whose exports are named by code is one. A missing
 * code falls back to the English text.
 */
export interface Catalogue extends Texts, Readonly<Partial<Record<Wording, Text | undefined>>> {
  /** The language, by its tag. Default `'en'`. */
  readonly locale?: string;
}

const own = (texts: object | undefined, code: string): unknown => (texts && Object.hasOwn(texts, code) ? texts[code as never] : undefined);

/** The text of a code, be it built in or the author's own. */
export const textFor = (texts: Texts | undefined, code: string): Text | undefined =>
  (own(texts, code) ?? own(texts?.own, code)) as Text | undefined;

/**
 * Writes a message out.
 *
 * @param text the text of a catalogue or of a rule's own `message`
 * @param params what it may speak about; a slot without a param stays as it is
 * @param catalogue says the language, where the text is there in several
 * @param quoted the params that it quotes, beside those of built-in rules
 * @returns the sentence, plain text: never HTML; the label if a function throws (with a warning in development)
 */
export function formatText(text: Text, params: MessageParams, catalogue?: Catalogue, quoted?: readonly string[]): string {
  const isolate = isolator(catalogue?.locale ?? params.locale);
  try {
    const said: unknown =
      typeof text === 'function'
        ? text(isolate === String ? params : isolated(params, isolate, quoted))
        : inLanguage(text, catalogue).replace(/\{(\w+)\}/g, (slot, name: string) =>
            Object.hasOwn(params, name) ? isolate(params[name]) : slot,
          );
    if (typeof said === 'string') return said;
    // (What a promise rejects with ends no process.)
    Promise.resolve(said).catch(() => undefined);
    throw new TypeError(DEV ? `it returned a ${typeof said}, not a text` : '');
  } catch (error) {
    // A finding must not be lost over its words.
    warnOnce(typeof text === 'function' ? text : params, () => [
      explain(
        'message-function-threw',
        `the message function for "${params.label}" threw: ${told(error)}. The label is shown instead. Correct the function.`,
      ),
    ]);
    return params.label;
  }
}

/** The languages that are written from right to left. */
const RIGHT_TO_LEFT = /^(ar|ckb|dv|fa|he|ks|ps|sd|ug|ur|yi)\b/;

/**
 * Formats a value for a slot. In a right-to-left text it is isolated, so that `OT-1204` does
 * not fall apart (Unicode Standard Annex 9: first strong isolate).
 */
const isolator = (locale = 'en'): ((value: unknown) => string) =>
  RIGHT_TO_LEFT.test(locale)
    ? (value) => (typeof value === 'string' && /^[^\u2068]/.test(value) ? `\u2068${value}\u2069` : String(value))
    : String;

/** The params of built-in rules that a message quotes. */
const QUOTED = ['label', 'otherLabel', 'file', 'name'];

const isolated = (params: MessageParams, isolate: (value: unknown) => string, quoted: readonly string[] = []): MessageParams => ({
  ...params,
  ...Object.fromEntries(
    [...QUOTED, ...quoted].filter((name) => typeof params[name] === 'string').map((name) => [name, isolate(params[name])]),
  ),
});

/** The text of a label in the language of a catalogue. */
export const inLanguage = (label: Label, catalogue: Pick<Catalogue, 'locale'> | undefined): string =>
  typeof label === 'string' ? label : (label[catalogue?.locale ?? 'en'] ?? Object.values(label)[0] ?? '');

/** Whether something is a text, or texts by language. */
export function isLabel(value: unknown): value is Label {
  if (typeof value === 'string') return true;
  const texts = typeof value === 'object' && value !== null ? Object.values(value) : [];
  return texts.length > 0 && texts.every((text) => typeof text === 'string');
}

/** A message that is shown as it is: what a callback or a server has put into words has no slots. */
export const asIs = (label: Label): Text =>
  typeof label === 'string' ? () => label : ({ locale = 'en' }) => inLanguage(label, { locale });
