// One judging of a whole value: what the parts of a schema hand their findings to, and how a verdict of a rule becomes
// a finding.

import { customError, crashed } from '../messages/en.ts';
import { formatText, type Catalogue } from '../messages/text.ts';
import { join, type Finding } from './finding.ts';
import type { Part } from './node.ts';
import type { AnyRule, RuleOptions, Verdict } from './rule.ts';

/** Where a fault happened: in which rule, on which field. */
export interface Fault {
  /** What was thrown, or what is wrong. */
  readonly error: unknown;
  readonly path: string;
  readonly rule: string;
}

/** A question to the network that is still to be put; it stands among the findings where its answer will stand. */
export interface Question {
  path: string;
  readonly part: Part;
  readonly rule: AnyRule;
  readonly value: unknown;
  siblings: unknown;
}

export type Entry = { -readonly [K in keyof Finding]: Finding[K] } | Question;

export const isQuestion = (entry: Entry): entry is Question => 'rule' in entry;

/** One judging. */
export interface Run {
  /** In schema order; questions only where they are asked for. */
  readonly entries: Entry[];
  readonly catalogue: Catalogue | undefined;
  /** Whether async rules leave their questions among the entries. */
  readonly questions: boolean;
  /** Whether keys that the schema does not know are findings. */
  readonly refuseUnknown: boolean;
  /** The keys without data, of each group's data that has such. */
  holes: Map<unknown, Set<string>> | undefined;
  readonly faults: Fault[];
}

const NO_PARAMS = Object.freeze({});

/** Makes the finding of a verdict. */
export function toFinding(
  path: string,
  part: Part,
  rule: AnyRule | undefined,
  verdict: Verdict,
  catalogue: Catalogue | undefined,
): Finding {
  const author: RuleOptions | undefined = verdict.bare ? undefined : rule;
  const code = author?.code ?? verdict.code;
  const ruleParams = rule === undefined ? NO_PARAMS : rule.params;
  const params = verdict.params === undefined ? ruleParams : { ...ruleParams, ...verdict.params };
  const text =
    verdict.message ??
    author?.message ??
    part.messages?.[code] ??
    catalogue?.[code] ??
    (code === verdict.code ? undefined : catalogue?.[verdict.code]) ??
    verdict.say ??
    customError;
  return {
    path: verdict.path ? join(path, verdict.path) : path,
    code,
    severity: verdict.severity ?? author?.severity ?? 'error',
    message: formatText(text, { label: part.label, kind: part.kind, ...params }),
    params,
  };
}

/** The verdict of a rule that threw. */
export const CRASHED: Verdict = { code: 'crashed', say: crashed, bare: true };

/** Reports what a rule said of a value, in the run. */
export function report(run: Run, part: Part, rule: AnyRule | undefined, verdict: Verdict): void {
  run.entries.push(toFinding('', part, rule, verdict, run.catalogue));
}

/** Reports a rule that threw: an error on the field (fail closed), and a fault for the developer. */
export function reportCrash(run: Run, part: Part, rule: string, error: unknown): void {
  run.faults.push({ error, path: '', rule });
  report(run, part, undefined, CRASHED);
}

/** Puts a key before the paths of all that a child has reported. */
export function prefix(run: Run, firstEntry: number, firstFault: number, key: string | number): void {
  for (let i = firstEntry; i < run.entries.length; i += 1) {
    const entry = run.entries[i]!;
    entry.path = entry.path === '' ? String(key) : `${key}.${entry.path}`;
  }
  for (let i = firstFault; i < run.faults.length; i += 1)
    run.faults[i] = { ...run.faults[i]!, path: join(String(key), run.faults[i]!.path) };
}
