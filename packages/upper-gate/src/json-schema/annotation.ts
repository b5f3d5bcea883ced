// The annotation `gate`: what a form needs and no keyword of JSON Schema says.

import type { Settings } from '../schema/node.ts';
import {
  checkTypes,
  FLAG,
  isObject,
  JsonSchemaError,
  LABEL,
  omit,
  oneOfThese,
  STAGE,
  TEXT,
  under,
  type JsonObject,
  type Keywords,
  type Type,
} from './document.ts';

/** What may stand under `gate`. */
export interface Annotation {
  /** The kind, where type and format do not determine it: `'time'`, `'choices'`, `'file'`, ... */
  readonly kind?: string;
  /** Texts by language; a single text is the `title`, or the `description`. */
  readonly label?: unknown;
  readonly hint?: unknown;
  readonly reveal?: unknown;
  readonly private?: unknown;
  readonly messages?: unknown;
  readonly trim?: unknown;
  readonly wellFormed?: unknown;
  readonly case?: unknown;
  readonly decimal?: unknown;
  readonly locale?: unknown;
  readonly useGrouping?: unknown;
  readonly absent?: 'accepted' | 'refused';
  /** Of a text: that an empty one is a value. */
  readonly empty?: 'value';
  /** Of an object: whether any property may be left out, with all its rules. */
  readonly partial?: unknown;
  /** The rules of a value, in their order. */
  readonly rules?: unknown;
  /** Of an object: the rules on its fields that read others, by field. */
  readonly fieldRules?: unknown;
  /** The names of the functions that say whether a field applies, by field. */
  readonly appliesWhen?: unknown;
  /** Rules on an object as a whole. */
  readonly groupRules?: unknown;
}

const ANY: Type = { fits: () => true, words: '' };
const TYPES: Readonly<Record<keyof Annotation, Type>> = {
  kind: TEXT,
  label: LABEL,
  hint: LABEL,
  reveal: STAGE,
  private: FLAG,
  messages: { fits: (value) => isObject(value) && Object.values(value).every(LABEL.fits), words: 'texts by code' },
  trim: FLAG,
  wellFormed: FLAG,
  case: oneOfThese('upper', 'lower'),
  decimal: TEXT,
  locale: TEXT,
  useGrouping: FLAG,
  absent: oneOfThese('accepted', 'refused'),
  empty: oneOfThese('value'),
  partial: FLAG,
  // Read with the rules, and with the fields.
  rules: ANY,
  fieldRules: ANY,
  appliesWhen: ANY,
  groupRules: ANY,
};

/** The annotation at all places that describe one value; the first that says something is right. */
export function annotationOf(bags: readonly Keywords[]): Annotation {
  const found: Record<string, unknown> = {};
  for (const { schema, at } of [...bags].reverse()) {
    const given = schema['gate'] ?? {};
    if (!isObject(given)) throw new JsonSchemaError(at, '"gate" takes an object.');
    checkTypes(given, TYPES, '"gate"', under(at, 'gate'));
    Object.assign(found, given);
  }
  return found;
}

/** What a value is to begin with, as the first of several places says. */
export function readDefault(bags: readonly Keywords[]): { readonly default?: never } {
  const said = bags.find(({ schema }) => schema['default'] !== undefined);
  // Whatever it is: a form reads it as it reads what is typed.
  return said ? { default: said.schema['default'] as never } : {};
}

/** A name as a label, which is never empty. */
export const shown = (name: string): string => (name === '' ? '""' : name);

/** The settings of a value, of its kind too. */
export function readSettings(bags: readonly Keywords[], name: string): Settings & JsonObject {
  const text = (keyword: string): string | undefined =>
    bags.map(({ schema }) => schema[keyword]).find((value): value is string => typeof value === 'string' && value !== '');
  const settings = omit(annotationOf(bags) as JsonObject, [
    'kind',
    'absent',
    'empty',
    'partial',
    'rules',
    'fieldRules',
    'appliesWhen',
    'groupRules',
  ]);
  const isPrivate = bags.some(({ schema }) => schema['format'] === 'password');
  return {
    hint: text('description'),
    private: isPrivate,
    ...settings,
    label: settings['label'] ?? text('title') ?? shown(name),
  } as unknown as Settings & JsonObject;
}
