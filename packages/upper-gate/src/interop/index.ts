// Upper Gate, the schemas of other libraries, and tools.

export {
  asyncStandardSchemaRule,
  fromStandardSchema,
  standardSchemaRule,
  toStandardSchema,
  type StandardSchema,
} from './standardSchema.ts';
export { describeSchema, type SchemaDescription } from './describeSchema.ts';
export { KINDS, RULES, type KindName, type ParamType, type RuleName } from '../schema/vocabulary.ts';
export { LimitError, nestNames, type NestLimits } from './names.ts';
