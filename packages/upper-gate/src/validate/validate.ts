// Judging a whole value at once.

import { assert } from '#development';
import type { Checks } from '../rules/check.ts';
import type { Finding } from '../schema/finding.ts';
import { walkPart } from '../schema/walkPart.ts';
import { partOf, type DATA, type Node } from '../schema/node.ts';
import { isFault, isPendingCheck, newWalk, sortEntries, type Fault, type Walk, type WalkOptions } from '../schema/walk.ts';
import { runPendingChecks } from './pendingChecks.ts';

/** What judging a whole value yields. */
export type ValidationResult<D> =
  | { readonly ok: true; readonly data: D; readonly findings: readonly Finding[] }
  | { readonly ok: false; readonly findings: readonly Finding[] };

export interface ValidateBaseOptions extends WalkOptions {
  /** Told of rules that threw, with the original error. */
  readonly onFault?: (fault: Fault) => void;
}

export interface ValidateOptions extends ValidateBaseOptions {
  /** `'skip'`: judge without the async rules. */
  readonly async?: 'skip';
}

export interface ValidateAsyncOptions extends ValidateBaseOptions {
  /** Functions in place of those of network rules, by the `name` that these have. */
  readonly checks?: Checks;
  /** Gives up the questions under way; they count as unanswered. */
  readonly signal?: AbortSignal;
}

/**
 * Judges a raw value at once. Never throws because of the value, however strange it is.
 *
 * @param schema what to judge by
 * @param raw what the controls of a form hold, or a parsed request, or data
 * @returns the typed data if no error was found; in both cases the findings, in schema order
 * @throws TypeError if the schema holds async rules and `async: 'skip'` was not given
 *
 * @example
 * const judged = validate(passage, JSON.parse(body));
 * if (judged.ok) book(judged.data);
 * else for (const { path, message } of judged.findings) console.log(path, message);
 */
export function validate<N extends Node>(schema: N, raw: unknown, options: ValidateOptions = {}): ValidationResult<N[typeof DATA]> {
  assert(
    () =>
      options.async !== 'skip' &&
      partOf(schema).hasAsyncRules &&
      "validate() cannot wait for the async rules of this schema. Call validateAsync(), or leave them out with { async: 'skip' }.",
  );
  const run = newWalk(options);
  const data = walkWhole(schema, raw, run);
  return conclude(data, run, options);
}

/**
 * Judges a raw value by all rules, those that ask over the network too: the quick ones first, then the questions, all at
 * once, on the values in which no error was found.
 *
 * @returns as `validate`; a question without an answer is an `unanswered` finding
 *
 * @example
 * const judged = await validateAsync(passage, body, { signal: AbortSignal.timeout(5000) });
 */
export async function validateAsync<N extends Node>(
  schema: N,
  raw: unknown,
  options: ValidateAsyncOptions = {},
): Promise<ValidationResult<N[typeof DATA]>> {
  const run = newWalk(options, true);
  const data = walkWhole(schema, raw, run);
  if (run.entries.some(isPendingCheck)) await runPendingChecks(run, options.signal, options.checks);
  return conclude(data, run, options);
}

function walkWhole(schema: Node, raw: unknown, run: Walk): unknown {
  const part = partOf(schema);
  const data = walkPart(part, raw, run);
  if (run.unsorted && run.entries.length > 1) sortEntries(run, part);
  return data;
}

function conclude<D>(data: unknown, { entries }: Walk, { onFault }: ValidateBaseOptions): ValidationResult<D> {
  let findings = entries as readonly Finding[];
  const faults = entries.filter(isFault);
  if (faults.length > 0) {
    findings = findings.filter((entry) => !isFault(entry));
    if (onFault) faults.forEach(onFault);
  }
  const ok = !findings.some((finding) => finding.severity === 'error');
  return ok ? { ok, data: data as D, findings } : { ok, findings };
}
