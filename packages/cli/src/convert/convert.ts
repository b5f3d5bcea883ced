// From a schema to something else that is written of it.

import { describeSchema } from 'upper-gate/interop';
import { JsonSchemaError, toJsonSchema } from 'upper-gate/json-schema';
import { Failure } from '../failure.ts';
import type { Loaded } from '../schema.ts';
import { toMarkdown } from './markdown.ts';
import { toMarkup } from './markup.ts';
import { toTypes } from './types.ts';

export const TARGETS = ['json-schema', 'types', 'html', 'markdown'] as const;
export type Target = (typeof TARGETS)[number];

/**
 * Writes a schema as something else.
 *
 * @throws Failure for a schema that cannot be written so
 */
export function convert({ schema, name }: Loaded, to: Target): string {
  if (to === 'types') return toTypes(describeSchema(schema), name);
  if (to === 'markdown') return toMarkdown(describeSchema(schema), name);
  if (to === 'html') {
    if (schema.kind === 'group') return toMarkup(describeSchema(schema));
    throw new Failure(`A form is written of a group. This schema is a ${schema.kind}.`);
  }
  try {
    return `${JSON.stringify(toJsonSchema(schema), null, 2)}\n`;
  } catch (error) {
    if (error instanceof JsonSchemaError) throw new Failure(`The schema cannot be written as JSON Schema: ${error.message}`);
    throw error;
  }
}
