// Finding a schema among the exports of a module.

import { resolve } from 'node:path';
import { createJiti } from 'jiti';
import { isSchema, type Node } from 'upper-gate';
import { Failure, firstLine } from './failure.ts';
import { factsOf } from './files.ts';

/**
 * Loads a schema from a TypeScript or JavaScript module.
 *
 * @param path the module
 * @param name the export; default: the only schema that it exports
 * @throws Failure if there is no such module, it throws, or it exports no such schema
 */
export async function loadSchema(path: string, name: string | undefined): Promise<Node> {
  await factsOf(path, 'schema');
  let exported: Readonly<Record<string, unknown>>;
  try {
    exported = await createJiti(import.meta.url).import(resolve(path));
  } catch (error) {
    throw new Failure(`${path} cannot be loaded: ${firstLine(error)}`);
  }
  const names = Object.keys(exported).filter((each) => isSchema(exported[each]));
  const known = names.length > 0 ? `It exports ${names.join(', ')}.` : 'It exports none: export one made with group({ ... }).';
  if (name !== undefined) {
    const schema = exported[name];
    if (!isSchema(schema)) throw new Failure(`${path} exports no schema "${name}". ${known}`);
    return schema;
  }
  const [only] = names;
  if (only === undefined) throw new Failure(`${path} has no schema. ${known}`);
  if (new Set(names.map((each) => exported[each])).size > 1)
    throw new Failure(`${path} has several schemas: say which with --export. ${known}`);
  return exported[only] as Node;
}
