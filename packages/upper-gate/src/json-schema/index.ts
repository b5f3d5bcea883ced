/**
 * Read and write JSON Schema 2020-12.
 *
 * @module upper-gate/json-schema
 */

export { JsonSchemaError, type JsonObject, type JsonSchema } from './document.ts';
export { fromJsonSchema, type FromJsonSchemaOptions, notesOf } from './fromJsonSchema.ts';
export type { Note } from './keywords/inspect.ts';
export { defaultsOf } from './defaults.ts';
export { toJsonSchema, type ToJsonSchemaOptions } from './toJsonSchema.ts';
