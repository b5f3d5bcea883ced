// From a schema to something else that is written of it.

import { describeSchema } from 'upper-gate/interop';
import { JsonSchemaError, toJsonSchema } from 'upper-gate/json-schema';
import { Failure } from '../failure.ts';
import { printableDocument } from '../report/output.ts';
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

/** A character by its number. Those of C1 are none to HTML, which would take them for others. */
const reference = (character: string): string => (/\p{Cc}/u.test(character) ? '\uFFFD' : `&#x${character.codePointAt(0)!.toString(16)};`);

/** How targets write characters that do something to a terminal, where JSON's way is not theirs. */
const ESCAPES: Partial<Record<Target, (character: string) => string>> = { html: reference, markdown: reference };

/**
 * Writes a schema as something else.
 *
 * @throws Failure for a schema that cannot be written so
 */
export const convert = async (loaded: Loaded, to: Target): Promise<string> => printableDocument(await WRITERS[to](loaded), ESCAPES[to]);
