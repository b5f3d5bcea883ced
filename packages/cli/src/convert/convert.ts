// From a schema to something else that is written of it.

import { describeSchema } from 'upper-gate/interop';
import { JsonSchemaError, toJsonSchema } from 'upper-gate/json-schema';
import { Failure } from '../failure.ts';
import type { Loaded } from '../schema.ts';
import type { Target } from './targets.ts';

/**
 * Writes a schema as something else. Loads only what writes that.
 *
 * @throws Failure for a schema that cannot be written so
 */
export async function convert({ schema, name }: Loaded, to: Target): Promise<string> {
  if (to === 'types') return (await import('./types.ts')).toTypes(describeSchema(schema), name);
  if (to === 'markdown') return (await import('./markdown.ts')).toMarkdown(describeSchema(schema), name);
  if (to === 'html') {
    if (schema.kind === 'group') return (await import('./markup.ts')).toMarkup(describeSchema(schema));
    throw new Failure(`A form is written of a group. This schema is a ${schema.kind}.`);
  }
  try {
    return `${JSON.stringify(toJsonSchema(schema), null, 2)}\n`;
  } catch (error) {
    if (error instanceof JsonSchemaError) throw new Failure(`The schema cannot be written as JSON Schema: ${error.message}`);
    throw error;
  }
}
