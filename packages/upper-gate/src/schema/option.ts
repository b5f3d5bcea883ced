// The values of a choice.

import { inLanguage, isLabel, type Catalogue, type Label } from '../messages/text.ts';

/** One of the values of a choice, and its label: a text, or one for each language. */
export interface Option<T extends OptionValue = OptionValue, L extends Label = Label> {
  readonly value: T;
  readonly label: L;
}

/** A value to choose. Controls hold it as text. */
export type OptionValue = string | number | boolean;

/** The values of a choice, with or without labels. */
export type Options<T extends OptionValue> = readonly (T | Option<T>)[];

/** Options as controls hold them, with labels in the language of the form. */
export type TextOptions = readonly Option<string, string>[];

/** Options as controls hold them, in no language yet. */
export type RawOptions = readonly (Pick<Option<string>, 'value'> & Partial<Option>)[];

/** The same options as controls hold them. */
export const asText = (of: Options<OptionValue>): RawOptions =>
  of.map((option) => (typeof option === 'object' ? { value: String(option.value), label: option.label } : { value: String(option) }));

/** Options with their labels. */
export const toOptions = <T extends OptionValue>(of: Options<T>): readonly Option<T>[] =>
  of.map((option) => (typeof option === 'object' ? option : { value: option, label: String(option) }));

/** What was last put into words, by what it was made of: a page is drawn anew only for others. */
const worded = new WeakMap<
  RawOptions,
  { readonly locale: string | undefined; readonly own: RawOptions | undefined; readonly options: TextOptions }
>();

/**
 * Options in the language of a catalogue.
 *
 * @param options the options
 * @param own those of the field, whose labels count where the options have none
 */
export function inWords(options: RawOptions, own: RawOptions | undefined, catalogue: Pick<Catalogue, 'locale'> | undefined): TextOptions {
  const locale = catalogue?.locale;
  const last = worded.get(options);
  if (last && last.locale === locale && last.own === own) return last.options;
  const known = new Map(own?.map(({ value, label }) => [value, label]));
  const made = options.map(({ value, label }) => ({
    value,
    label: inLanguage([label, known.get(value)].find(isLabel) ?? value, catalogue),
  }));
  worded.set(options, { locale, own, options: made });
  return made;
}
