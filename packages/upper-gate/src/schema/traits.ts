// What is known of a kind of part beside how it reads its values: one row for each. Whatever shows a part, words a message about
// it or writes it in another notation goes by its row, not by its name, so that kinds of an author are treated alike.

/** The type of a value in JSON; `'any'`: whatever the part itself accepts. */
export type JsonType = 'string' | 'number' | 'boolean' | 'array' | 'object' | 'any';

/** What a field holds: one value, one or several of the options that it offers, yes or no, one file or several. */
export type FieldHolding = 'value' | 'option' | 'options' | 'flag' | 'file' | 'files';

/** What a part holds: what a field does, or other parts; `'itself'` stands for a part around it. */
export type Holding = FieldHolding | 'fields' | 'cases' | 'rows' | 'entries' | 'itself';

/** The row of a kind. */
export interface Traits {
  readonly holds: Holding;
  /** Whether it is made of other parts. */
  readonly hasParts?: boolean;
  /** The type of its values in JSON. */
  readonly json: JsonType;
  /** What its limits are about: a text as it is typed, a number, a date or time. Default: nothing that HTML could limit. */
  readonly measures?: 'text' | 'number' | 'moment';
  /** Whether its values have whole steps, as HTML counts them: whole numbers, days, weeks, months. */
  readonly isStepped?: boolean;
  /** The `type` of HTML's input that shows it. Default: a control for text, or what its options need. */
  readonly control?: string;
}
