// A schema as TypeScript types.

import type { JsonType } from 'upper-gate';
import { targetOf, type KindName, type SchemaDescription } from 'upper-gate/interop';

const FILE = '{ readonly name: string; readonly size: number; readonly type: string }';
/** The types of the kinds that no options, fields or rows describe. */
const PLAIN: Readonly<Record<KindName, string>> = {
  text: 'string',
  number: 'number',
  integer: 'number',
  boolean: 'boolean',
  date: 'string',
  time: 'string',
  dateTime: 'string',
  month: 'string',
  week: 'string',
  color: 'string',
  anyJson: 'unknown',
  choice: 'string',
  choices: 'readonly string[]',
  file: FILE,
  files: `readonly ${FILE}[]`,
  // What their own functions make of a value is known to the compiler alone.
  custom: 'unknown',
  standardSchema: 'unknown',
  deferred: 'unknown',
};

const keyOf = (key: string): string => (/^[\p{ID_Start}_$][\p{ID_Continue}$]*$/u.test(key) ? key : JSON.stringify(key));
/** A text within a comment, which it must not end. */
const comment = (text: string): string => text.replace(/\*\//g, '* /').replace(/\s+/g, ' ');

/** `passage-form` as the name of a type: `PassageForm`. */
function typeName(name: string): string {
  const words = name.split(/[^\p{ID_Continue}$]+/u).filter(Boolean);
  const joined = words.map((word) => word[0]!.toUpperCase() + word.slice(1)).join('');
  return isGlobal(joined) ? `${joined}Data` : /^[\p{ID_Start}_$]/u.test(joined) ? joined : `Data${joined}`;
}

/** Types that a file has without importing them: one of its own would take their place, also where a kind of an author names them. */
const isGlobal = (name: string): boolean =>
  name in globalThis || /^(Record|Partial|Required|Readonly|Pick|Omit|ReadonlyMap|ReadonlySet)$/.test(name);

/** What own and mapped data travel as. */
const TRAVELLING: Readonly<Record<JsonType, string>> = {
  string: 'string',
  number: 'number',
  boolean: 'boolean',
  array: 'readonly unknown[]',
  object: '{ readonly [key: string]: unknown }',
  any: 'unknown',
};

/** A type after its sign; a union starts on a new line. */
const spaced = (type: string): string => (type.startsWith('\n') ? type : ` ${type}`);

/** Writes types, with a name for each that contains itself: those of data, or of the same as JSON. */
class Writer {
  readonly #names = new Map<SchemaDescription, string>();
  readonly #root: string;

  readonly #whole: SchemaDescription;

  readonly #isJson: boolean;

  constructor(root: string, whole: SchemaDescription, isJson: boolean) {
    this.#root = isJson ? `${root}Json` : root;
    this.#whole = whole;
    this.#isJson = isJson;
  }

  write(): string {
    const types: string[] = [];
    this.#names.set(this.#whole, this.#root);
    // Writing one may bring up further ones.
    for (const [target, name] of this.#names) types.push(`export type ${name} =${spaced(this.#typeOf(target))};`);
    return types.join('\n\n');
  }

  #typeOf(of: SchemaDescription, indent = ''): string {
    const { kind, traits, options, fields, item, cases, key } = of;
    const target = targetOf(this.#whole, of);
    if (target) {
      const name = this.#names.get(target) ?? `${this.#root}Part${this.#names.size}`;
      this.#names.set(target, name);
      return name;
    }
    if (fields) return this.#object(Object.entries(fields), indent);
    if (item && traits.holds === 'entries') return `{ [key: string]: ${this.#valueOf(item, indent)} }`;
    if (item) {
      const type = this.#valueOf(item, indent, item.cases ? undefined : 'null');
      const isOne = (item.always && item.fields) || /^[\w$.]+$/.test(type);
      return `${isOne ? type : `(${type})`}[]`;
    }
    if (cases) {
      const union = Object.entries(cases).map(([value, group]) => {
        const literal: [string, string] = [keyOf(key!), JSON.stringify(value)];
        return this.#object(Object.entries(group.fields ?? {}), `${indent}  `, literal);
      });
      return union.map((each) => `\n${indent}  | ${each}`).join('');
    }
    const values = options?.map(({ value }) => JSON.stringify(value)).join(' | ');
    if (values !== undefined) return traits.holds === 'options' ? `readonly (${values})[]` : values;
    if (of.type !== undefined && this.#isJson) return TRAVELLING[traits.json];
    return of.type ?? (kind in PLAIN ? PLAIN[kind as KindName] : 'unknown');
  }

  /** The type, with what stands for no value where there may be none. @param none in JSON */
  #valueOf(of: SchemaDescription, indent: string, none?: 'null'): string {
    const nothing = of.always ? undefined : this.#isJson ? none : 'undefined';
    return `${this.#typeOf(of, indent)}${nothing === undefined ? '' : ` | ${nothing}`}`;
  }

  #object(fields: readonly (readonly [string, SchemaDescription])[], indent: string, literal?: readonly [string, string]): string {
    const inner = `${indent}  `;
    const lines = fields.map(
      ([key, of]) =>
        `${inner}/** ${comment(of.label)} */\n${inner}${keyOf(key)}${of.optional || (this.#isJson && !of.always) ? '?' : ''}:${spaced(this.#valueOf(of, inner))};`,
    );
    if (literal) lines.unshift(`${inner}${literal.join(': ')};`);
    return lines.length > 0 ? `{\n${lines.join('\n')}\n${indent}}` : '{ [key: string]: never }';
  }
}

/**
 * The type of the data that valid values yield, and that of the same as JSON.
 *
 * @param name of the schema; the types are called by it
 */
export const toTypes = (description: SchemaDescription, name: string): string =>
  [false, true].map((isJson) => `${new Writer(typeName(name), description, isJson).write()}\n`).join('\n');
