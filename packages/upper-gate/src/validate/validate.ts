// Validating a whole value.

import { DEV, explain } from '#development';
import { assertUse } from '../schema/assertUse.ts';
import type { Fault } from '../schema/walker.ts';
import type { Checks } from '../rules/asyncCheck/asyncCheck.ts';
import type { Finding } from '../schema/finding.ts';
import type { DATA, Node } from '../schema/node.ts';
import { hasAsyncRules, partOf } from '../schema/part.ts';
import { blocks } from '../schema/severity.ts';
import { runPendingChecks } from './pendingChecks.ts';
import { isFault, isFinding, isPendingCheck } from './entries.ts';
import { AsyncWalk } from './asyncWalk.ts';
import { Walk, type WalkOptions } from './walk.ts';

/** The result of validating a whole value. `more`: there were more findings than `maxFindings`. */
export type ValidationResult<D> =
  | { readonly ok: true; readonly data: D; readonly findings: readonly Finding[]; readonly more?: true }
  | { readonly ok: false; readonly findings: readonly Finding[]; readonly more?: true };

/** The options of `validate` and `validateAsync`. */
export interface ValidateBaseOptions extends WalkOptions {
  /** Called with the original error if a rule throws. */
  readonly onFault?: (fault: Fault) => void;
}

/** The options of `validate`. */
export interface ValidateOptions extends ValidateBaseOptions {
  /** `'skip'`: validates without the async rules. */
  readonly async?: 'skip';
}

/** The options of `validateAsync`. */
export interface ValidateAsyncOptions extends ValidateBaseOptions {
  /** Functions that replace those of async rules, by the `name` of the rule. */
  readonly checks?: Checks;
  /** Ends the async rules under way; they count as unanswered, and no further one starts. */
  readonly signal?: AbortSignal | undefined;
  /** How many async rules run at the same time. Default 8. */
  readonly concurrency?: number;
  /** Milliseconds for all async rules together; after that no further one starts. Default 10 000. */
  readonly timeout?: number;
}

/**
 * Validates a raw value. Never throws because of the value, however strange it is.
 *
 * @param schema what to validate by
 * @param raw what the controls of a form hold, or a parsed request, or data
 * @param options the language, unknown keys, the source, and others
 * @returns the typed data if no error was found; in both cases the findings, in schema order
 * @throws TypeError if the schema has async rules and `async: 'skip'` was not given
 *
 * @example
 * const result = validate(passage, JSON.parse(body));
 * if (result.ok) book(result.data);
 * else for (const { path, message } of result.findings) console.log(path, message);
 */
export function validate<N extends Node>(schema: N, raw: unknown, options: ValidateOptions = {}): ValidationResult<N[typeof DATA]> {
  const part = partOf(schema);
  assertUse(
    options.async === 'skip' || !hasAsyncRules(schema),
    DEV &&
      explain(
        'async-rules-in-validate',
        "validate() cannot run the async rules of this schema. Call validateAsync(), or skip them with { async: 'skip' }.",
      ),
  );
  const walk = new Walk(options);
  return conclude<N[typeof DATA]>(walk.whole(part, raw), walk, options);
}

/**
 * Validates a raw value with all rules: the sync rules first, then the async ones on the values without an error.
 *
 * @param schema the schema
 * @param raw the raw value
 * @param options those of `validate`, and `signal`, `concurrency`, `timeout`
 * @returns as `validate`; an async rule that gets no answer is an `unanswered` error, unless the rule says `unanswered: 'warn'`
 *
 * @example
 * const result = await validateAsync(passage, body, { signal: AbortSignal.timeout(5000) });
 */
export async function validateAsync<N extends Node>(
  schema: N,
  raw: unknown,
  options: ValidateAsyncOptions = {},
): Promise<ValidationResult<N[typeof DATA]>> {
  const walk = new AsyncWalk(options);
  const data = walk.whole(partOf(schema), raw);
  if (!walk.isOver && walk.entries.some(isPendingCheck)) await runPendingChecks(walk, options);
  return conclude<N[typeof DATA]>(data, walk, options);
}

function conclude<D>(data: unknown, { entries, found, maxFindings }: Walk, { onFault }: ValidateBaseOptions): ValidationResult<D> {
  const all = entries.every(isFinding) ? entries : entries.filter(isFinding);
  if (onFault && all !== entries) entries.filter(isFault).forEach(onFault);
  const result = all.some(blocks) ? ({ ok: false, findings: all } as const) : ({ ok: true, data: data as D, findings: all } as const);
  return found > maxFindings || all.length > maxFindings ? { ...result, findings: errorsFirst(all, maxFindings), more: true } : result;
}

/** As many findings as are kept: errors before others, in their order. */
function errorsFirst(findings: readonly Finding[], most: number): readonly Finding[] {
  let room = most - findings.filter(blocks).length;
  return findings.filter((finding) => blocks(finding) || room-- > 0).slice(0, most);
}
