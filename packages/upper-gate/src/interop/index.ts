/**
 * Standard Schema in both directions, schemas as plain data, and nested values from names.
 *
 * @module upper-gate/interop
 */

export {
  asyncStandardSchemaRule,
  groupFor,
  standardSchemaRule,
  type DataFor,
  type FieldsFor,
  type NamesOf,
  type StandardRuleOptions,
} from './foreignRule.ts';
export { fromStandardSchema, toStandardSchema } from './standardSchema.ts';
export type { StandardIssue, StandardResult, StandardSchema } from './standardSchemaTypes.ts';
export { describeSchema, type RuleDescription, type SchemaDescription, targetOf } from './describeSchema.ts';
export { KINDS, RULES, type KindName, type ParamType, type RuleName } from '../schema/vocabulary.ts';
export { LimitError, nestNames, type NestLimits } from './names.ts';
