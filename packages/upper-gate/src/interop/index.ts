// Upper Gate, the schemas of other libraries, and tools.

export {
  asyncStandardSchemaRule,
  fromStandardSchema,
  standardSchemaRule,
  toStandardSchema,
  type StandardSchema,
} from './standardSchema.ts';
export { describeSchema, type SchemaDescription } from './describeSchema.ts';
export { LimitError, nestNames, type NestLimits } from './names.ts';
