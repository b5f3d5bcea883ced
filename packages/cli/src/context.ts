// Facts from outside, for schemas that read some: the file of --context.

import { readFile } from 'node:fs/promises';
import { isContext, toJsonPointer, validateAsync, type Context, type ContextValue } from 'upper-gate';
import { Failure } from './failure.ts';
import { factsOf, parseJson } from './files.ts';

/** The tokens that modules export, by name. @throws Failure for two of one name */
export function tokensIn(...modules: readonly Readonly<Record<string, unknown>>[]): ReadonlyMap<string, Context> {
  const tokens = new Map<string, Context>();
  for (const token of modules.flatMap(Object.values).filter(isContext)) {
    if ((tokens.get(token.name) ?? token) !== token)
      throw new Failure(`Two contexts are named "${token.name}". Rename one of them: context("...") takes the name.`);
    tokens.set(token.name, token);
  }
  return tokens;
}

/**
 * Reads the values of tokens from a JSON file, by their names: `{"tides": [...]}`.
 *
 * @throws Failure for a file that cannot be read, a name that no token has, a value that the schema of its token refuses
 */
export async function readContext(path: string, tokens: ReadonlyMap<string, Context>): Promise<readonly ContextValue[]> {
  await factsOf(path, 'context');
  const given = parseJson(await readFile(path, 'utf8'), path);
  if (typeof given !== 'object' || given === null || Array.isArray(given))
    throw new Failure(`${path} should hold an object with a value for each context, by its name.`);
  const known =
    tokens.size > 0
      ? `Those exported are ${[...tokens.keys()].join(', ')}.`
      : 'None is exported: export the token beside the schema, or from the module of checks.';
  return Promise.all(
    Object.entries(given).map(async ([name, value]) => {
      const token = tokens.get(name);
      if (!token) throw new Failure(`${path} has a value for the context "${name}", which does not exist. ${known}`);
      if (!token.schema) return token.of(value);
      const result = await validateAsync(token.schema, value, { source: 'json' });
      if (result.ok) return token.of(result.data);
      const [error] = result.findings.filter(({ severity }) => severity === 'error');
      throw new Failure(`${path}, /${name}${toJsonPointer(error!)}: ${error!.message}`);
    }),
  );
}
