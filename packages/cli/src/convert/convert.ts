// From a schema to something else that is written of it.

import { describeSchema } from 'upper-gate/interop';
import { JsonSchemaError, toJsonSchema } from 'upper-gate/json-schema';
import { Failure } from '../failure.ts';
import type { Loaded } from '../schema.ts';
import type { Target } from './targets.ts';

/** What writes each target; it loads no more than that. */
const WRITERS: Readonly<Record<Target, (loaded: Loaded) => string | Promise<string>>> = {
  async types({ schema, name }) {
    return (await import('./types.ts')).toTypes(describeSchema(schema), name);
  },
  async markdown({ schema, name }) {
    return (await import('./markdown.ts')).toMarkdown(describeSchema(schema), name);
  },
  async html({ schema }) {
    const description = describeSchema(schema);
    if (description.fields) return (await import('./markup.ts')).toMarkup(description);
    throw new Failure(`A form is written of a group. This schema is a ${schema.kind}.`);
  },
  'json-schema'({ schema }) {
    try {
      return `${JSON.stringify(toJsonSchema(schema), null, 2)}\n`;
    } catch (error) {
      if (error instanceof JsonSchemaError) throw new Failure(`The schema cannot be written as JSON Schema: ${error.message}`);
      throw error;
    }
  },
};

/**
 * Writes a schema as something else.
 *
 * @throws Failure for a schema that cannot be written so
 */
export const convert = async (loaded: Loaded, to: Target): Promise<string> => WRITERS[to](loaded);
