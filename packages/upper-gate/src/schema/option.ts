// The values of a choice.

/** One of the values of a choice, and its label. */
export interface Option<T extends OptionValue = OptionValue> {
  readonly value: T;
  readonly label: string;
}

/** A value to choose. Controls hold it as text. */
export type OptionValue = string | number | boolean;

/** The values of a choice, with or without labels. */
export type Options<T extends OptionValue> = readonly (T | Option<T>)[];

/** Options as controls hold them. */
export type TextOptions = readonly Option<string>[];

/** The same options as controls hold them. */
export const asText = (of: readonly Option[]): TextOptions => of.map(({ value, label }) => ({ value: String(value), label }));

/** Options with their labels. */
export const toOptions = <T extends OptionValue>(of: Options<T>): readonly Option<T>[] =>
  of.map((option) => (typeof option === 'object' ? option : { value: option, label: String(option) }));
