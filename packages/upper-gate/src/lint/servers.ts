// What a server, or another notation, cannot do with a schema.

import { toAttributes } from '../html/toAttributes.ts';
import { JsonSchemaError } from '../json-schema/document.ts';
import { toJsonSchema } from '../json-schema/toJsonSchema.ts';
import { isField } from '../schema/field.ts';
import { pathOf } from '../schema/finding.ts';
import { nodeOf } from '../schema/part.ts';
import type { Found } from './finding.ts';
import type { Courses } from './courses.ts';
import { called, labelled, quoted } from './told.ts';
import type { Site } from './sites.ts';

/** The notations that a schema is exported to. */
export type ExportedTo = 'html' | 'json-schema';

/** The site at a place in the document of a schema. */
function siteAt(sites: readonly Site[], pointer: string): Site {
  const keys = pointer.split('/').slice(1);
  const path = pathOf(keys.filter((_, i) => keys[i - 1] === 'properties'));
  return sites.find((site) => site.path === path) ?? sites[0]!;
}

function* exported(sites: readonly Site[], to: readonly ExportedTo[]): Iterable<Found> {
  if (to.includes('json-schema'))
    try {
      toJsonSchema(nodeOf(sites[0]!.part));
    } catch (error) {
      if (!(error instanceof JsonSchemaError)) throw error;
      yield { id: 'not-in-json', site: siteAt(sites, error.pointer), what: error.message };
    }
  if (to.includes('html'))
    for (const site of sites) {
      const { part } = site;
      if (!isField(part) || part.traits.control !== undefined || part.traits.measures === 'text' || part.traits.holds !== 'value') continue;
      if (Object.keys(toAttributes(nodeOf(part))).length === 0)
        yield {
          id: 'not-in-html',
          site,
          what: `No control of HTML holds a value of the kind ${quoted(part.kind)}, that of ${labelled(site)}.`,
        };
    }
}

/** All that fails elsewhere. */
export function* serverFaults(
  sites: readonly Site[],
  { lacking, told }: Pick<Courses, 'lacking' | 'told'>,
  to: readonly ExportedTo[],
): Iterable<Found> {
  for (const site of sites)
    for (const { rule } of site.rules)
      if (rule.async && rule.async.name === undefined)
        yield { id: 'unnamed-async', site, rule: rule.name, declared: rule, what: `${called(rule)} on ${labelled(site)} has no name.` };
  for (const [{ name, schema }, paths] of lacking) {
    if (schema) continue;
    const site = sites.find(({ path }) => paths.has(path)) ?? sites[0]!;
    yield {
      id: 'missing-context',
      site,
      what: `The context ${quoted(name)} is read, but has neither fallback nor schema, and was not given.`,
    };
  }
  for (const [site, path] of told)
    yield {
      id: 'private-in-message',
      site,
      what: `The value of ${labelled(site)}, which is private, is in a message of ${quoted(path)}.`,
      samples: 1,
    };
  yield* exported(sites, to);
}
