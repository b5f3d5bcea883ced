// Standard Schema (`~standard`): schemas of other libraries as fields here, schemas of this library for tools that support it.

import { keysOf } from '../schema/finding.ts';
import { blocks } from '../schema/severity.ts';
import { check } from '../rules/crossField/check.ts';
import { type Field, FieldPart } from '../schema/field.ts';
import { hasAsyncRules } from '../schema/part.ts';
import type { DATA, LabelOr, Node, RAW, Settings } from '../schema/node.ts';
import { validateAtOnce, issuesIn } from './foreignRule.ts';
import type { StandardResult, StandardSchema } from './standardSchemaTypes.ts';
import { validate, validateAsync, type ValidateBaseOptions, type ValidationResult } from '../validate/validate.ts';

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
    const result = validateAtOnce(schema as StandardSchema<unknown, Out>, value);
    return result.issues ? new Refused(result) : result.value;
  };
  const issues = check((value: unknown) => (value instanceof Refused ? issuesIn(value.result) : true));
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
            path: keysOf(path).map((key) => (/^\d+$/.test(key) ? Number(key) : key)),
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
