// Upper Gate and JSON Schema 2020-12.

export { JsonSchemaError, type JsonObject, type JsonSchema } from './document.ts';
export { fromJsonSchema, type FromJsonSchemaOptions } from './fromJsonSchema.ts';
export { defaultsOf } from './defaults.ts';
export { toJsonSchema, type ToJsonSchemaOptions } from './toJsonSchema.ts';
