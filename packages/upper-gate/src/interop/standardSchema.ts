// Standard Schema (`~standard`): schemas of other libraries as rules and fields here, schemas of this library for tools
// that support it.

import { blocks } from '../schema/severity.ts';
import { asyncCheck, type AsyncCheckOptions } from '../rules/asyncCheck/asyncCheck.ts';
import { check, type CheckFinding } from '../rules/crossField/check.ts';
import { type Field, FieldPart } from '../schema/field.ts';
import { hasAsyncRules } from '../schema/part.ts';
import type { DATA, LabelOr, Node, RAW, Settings } from '../schema/node.ts';
import type { Rule } from '../schema/rule.ts';
import type { RuleOptions } from '../schema/verdict.ts';
import type { StandardResult, StandardSchema } from './standardSchemaTypes.ts';
import { validate, validateAsync, type ValidateBaseOptions, type ValidationResult } from '../validate/validate.ts';

const keyOf = (segment: PropertyKey | { readonly key: PropertyKey }): string => String(typeof segment === 'object' ? segment.key : segment);

const answersOf = ({ issues }: StandardResult<unknown>): readonly CheckFinding[] =>
  (issues ?? []).map(({ message, path = [] }) => ({ message, path: path.map(keyOf).join('.') }));

function atOnce<Out>(schema: StandardSchema<unknown, Out>, value: unknown): StandardResult<Out> {
  const result = schema['~standard'].validate(value);
  if (result instanceof Promise)
    throw new TypeError(
      `The schema of "${schema['~standard'].vendor}" validates asynchronously, so it cannot be a field or a standardSchemaRule(). Use asyncStandardSchemaRule() instead.`,
    );
  return result;
}

/**
 * Uses a schema of another library as a rule: on a field, on a group (`groupRules()`), on a list, or on the whole form. Its
 * issues become findings on the fields that their paths name (code `customError`). Converted values are not used.
 *
 * @param schema the schema
 * @param options what every rule takes
 * @returns the rule
 * @throws (as a `crashed` finding) TypeError for a schema that answers later
 *
 * @example
 * group({ from: date('From'), to: date('To') }).with(groupRules(standardSchemaRule(stay)))
 */
export const standardSchemaRule = (schema: StandardSchema, options?: RuleOptions | string): Rule<unknown> =>
  check((value) => answersOf(atOnce(schema, value)), options);

/**
 * Uses a schema of another library that may answer asynchronously as an async rule; see `asyncCheck`. It gets a copy of the
 * value, and runs again when anything in it changes.
 *
 * @param schema the schema
 * @param options those of `asyncCheck`
 * @returns the rule
 *
 * @example
 * text('Registration', asyncStandardSchemaRule(registered, { debounce: 400 }))
 */
export const asyncStandardSchemaRule = (schema: StandardSchema, options?: AsyncCheckOptions | string): Rule<unknown> =>
  asyncCheck(async (value) => answersOf(await schema['~standard'].validate(snapshot(value))), options);

/**
 * A copy of the value as it is now. A schema may read it after an `await`: all of it counts as read by the rule, and all it
 * reads belongs to one moment.
 */
function snapshot(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(snapshot);
  // Not dates, files and the like: these are values.
  if (typeof value !== 'object' || value === null || Object.getPrototypeOf(value) !== Object.prototype) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, snapshot(inner)]));
}

/**
 * Uses a schema of another library as a field. Its output is the data, its issues are the findings.
 *
 * @param schema it must answer at once
 * @param settings the label, or label and settings
 * @returns the field
 *
 * @example
 * const passage = group({ vessel: fromStandardSchema(vesselName, 'Vessel name'), beam: number('Beam (m)') });
 */
export function fromStandardSchema<In, Out>(schema: StandardSchema<In, Out>, settings: LabelOr<Settings>): Field<Out, In> {
  /** A value that cannot be read is validated as it is. */
  const read = (raw: unknown): unknown => {
    // An empty control holds nothing.
    const value = raw === '' ? undefined : raw;
    const result = atOnce(schema as StandardSchema<unknown, Out>, value);
    return result.issues ? new Refused(result) : result.value;
  };
  const issues = check((value: unknown) => (value instanceof Refused ? answersOf(value.result) : true));
  // No value counts as empty: the schema itself decides whether it is required.
  return new FieldPart({ name: 'standardSchema', traits: { holds: 'value', json: 'any' }, read, emptyData: NEVER }, settings, [
    issues,
  ]) as never;
}

class Refused {
  readonly result: StandardResult<unknown>;
  constructor(result: StandardResult<unknown>) {
    this.result = result;
  }
}
const NEVER = Symbol('no value is empty');

/**
 * Turns a schema of this library into one for tools that use Standard Schema. Errors become issues. It answers asynchronously
 * if the schema has async rules.
 *
 * @param schema the schema
 * @param options those of `validateAsync`
 * @returns the schema with the shared interface
 *
 * @example
 * const result = await toStandardSchema(passage)['~standard'].validate(body);
 * if (!result.issues) await db.book(result.value);
 */
export function toStandardSchema<N extends Node>(
  schema: N,
  options: ValidateBaseOptions = {},
): StandardSchema<N[typeof RAW], N[typeof DATA]> {
  const resultOf = (result: ValidationResult<N[typeof DATA]>): StandardResult<N[typeof DATA]> =>
    result.ok
      ? { value: result.data }
      : {
          issues: result.findings.filter(blocks).map(({ message, path }) => ({
            message,
            path: path === '' ? [] : path.split('.').map((key) => (/^\d+$/.test(key) ? Number(key) : key)),
          })),
        };
  return {
    '~standard': {
      version: 1,
      vendor: 'upper-gate',
      validate: (value) =>
        hasAsyncRules(schema) ? validateAsync(schema, value, options).then(resultOf) : resultOf(validate(schema, value, options)),
    },
  };
}
