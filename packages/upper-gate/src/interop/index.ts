// Upper Gate, the schemas of other libraries, and tools.

export { asyncStandardSchemaRule, fromStandardSchema, standardSchemaRule, toStandardSchema } from './standardSchema.ts';
export type { StandardIssue, StandardResult, StandardSchema } from './standardSchemaTypes.ts';
export { describeSchema, type RuleDescription, type SchemaDescription } from './describeSchema.ts';
export { KINDS, RULES, type KindName, type ParamType, type RuleName } from '../schema/vocabulary.ts';
export { LimitError, nestNames, type NestLimits } from './names.ts';
