// The shared schema interface (`~standard`, https://standardschema.dev): schemas of other libraries as rules and fields here,
// schemas of this library for tools that speak it.

import type { StandardSchemaV1 } from '@standard-schema/spec';
import { asyncCheck, check, type Answered, type AskOptions } from '../rules/check.ts';
import { FieldPart, type Field } from '../schema/field.ts';
import { partOf, type DATA, type LabelOr, type Node, type RAW, type Settings } from '../schema/node.ts';
import type { Rule, RuleOptions } from '../schema/rule.ts';
import { validate, validateAsync, type Judged, type JudgeOptions } from '../validate/validate.ts';

/** A schema of whatever library, as the interface has it: `In` what it takes, `Out` what it yields. */
export type Shared<In = unknown, Out = In> = StandardSchemaV1<In, Out>;

const keyOf = (segment: PropertyKey | StandardSchemaV1.PathSegment): string => String(typeof segment === 'object' ? segment.key : segment);

const answersOf = ({ issues }: StandardSchemaV1.Result<unknown>): readonly Answered[] =>
  (issues ?? []).map(({ message, path = [] }) => ({ message, path: path.map(keyOf).join('.') }));

function atOnce<Out>(schema: Shared<unknown, Out>, value: unknown): StandardSchemaV1.Result<Out> {
  const result = schema['~standard'].validate(value);
  if (result instanceof Promise)
    throw new TypeError(
      `The schema of "${schema['~standard'].vendor}" answers later: take it as a rule, with asyncSharedRule(), not as a field or sharedRule().`,
    );
  return result;
}

/**
 * A schema of another library as a rule: on a field, on a group (`.whole()`), on a list, on the whole form. Its issues
 * become findings on the fields that their paths name (code `customError`). What it converts is not taken over.
 *
 * @throws (as a `crashed` finding) TypeError for a schema that answers later
 *
 * @example
 * group({ from: date('From'), to: date('To') }).whole(sharedRule(stay))
 */
export const sharedRule = (schema: Shared, options?: RuleOptions | string): Rule<unknown> =>
  check((value) => answersOf(atOnce(schema, value)), options);

/**
 * A schema of another library that may answer later, as a rule that waits for it; see `asyncCheck`.
 *
 * @example
 * text('Registration', asyncSharedRule(registered, { debounce: 400 }))
 */
export const asyncSharedRule = (schema: Shared, options?: AskOptions | string): Rule<unknown> =>
  asyncCheck(async (value) => answersOf(await schema['~standard'].validate(value)), options);

/**
 * A schema of another library as a field: what it yields is the data, its issues are the findings.
 *
 * @param schema it must answer at once
 * @param settings the label, or label and settings
 *
 * @example
 * const passage = group({ vessel: fromShared(vesselName, 'Vessel name'), beam: number('Beam (m)') });
 */
export function fromShared<In, Out>(schema: Shared<In, Out>, settings: LabelOr<Settings>): Field<Out, In> {
  // Read and judged by one call, not two.
  let last: { readonly raw: unknown; readonly result: StandardSchemaV1.Result<Out> } | undefined;
  const resultOf = (raw: unknown): StandardSchemaV1.Result<Out> => {
    if (!last || !Object.is(last.raw, raw)) last = { raw, result: atOnce(schema as Shared<unknown, Out>, raw) };
    return last.result;
  };
  /** What cannot be read is judged, and told, as it is. */
  const read = (raw: unknown): unknown => {
    // An empty control holds nothing.
    const value = raw === '' ? undefined : raw;
    const result = resultOf(value);
    return result.issues ? new Refused(result) : result.value;
  };
  const told = check((value: unknown) => (value instanceof Refused ? answersOf(value.result) : true));
  // Nothing is empty to it: the schema itself says whether it must be there.
  return new FieldPart({ name: 'shared', json: 'any', read, blank: NEVER }, settings, [told]) as never;
}

class Refused {
  readonly result: StandardSchemaV1.Result<unknown>;
  constructor(result: StandardSchemaV1.Result<unknown>) {
    this.result = result;
  }
}
const NEVER = Symbol('no value is empty');

/**
 * A schema of this library for tools that speak the shared interface. Its errors are issues; it answers later where it has
 * rules that ask over the network.
 *
 * @example
 * const { value, issues } = await toShared(passage)['~standard'].validate(body);
 */
export function toShared<N extends Node>(schema: N, options: JudgeOptions = {}): Shared<N[typeof RAW], N[typeof DATA]> {
  const resultOf = (judged: Judged<N[typeof DATA]>): StandardSchemaV1.Result<N[typeof DATA]> =>
    judged.ok
      ? { value: judged.data }
      : {
          issues: judged.findings
            .filter(({ severity }) => severity === 'error')
            .map(({ message, path }) => ({
              message,
              path: path === '' ? [] : path.split('.').map((key) => (/^\d+$/.test(key) ? Number(key) : key)),
            })),
        };
  return {
    '~standard': {
      version: 1,
      vendor: 'upper-gate',
      validate: (value) =>
        partOf(schema).asks ? validateAsync(schema, value, options).then(resultOf) : resultOf(validate(schema, value, options)),
    },
  };
}
