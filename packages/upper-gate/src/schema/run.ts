// One judging of a whole value: what the parts of a schema hand their findings to, and how a verdict of a rule becomes
// a finding.

import { crashed, customError } from '../messages/en.ts';
import { formatText, inLanguage, type Catalogue, type Label } from '../messages/text.ts';
import { join, type Finding, type Params } from './finding.ts';
import { HOLE, type Part } from './node.ts';
import type { AnyRule, Clock, Told, RuleOptions, Verdict } from './rule.ts';

/** Where a fault happened: in which rule, on which field. */
export interface Fault {
  /** What was thrown, or what is wrong. */
  readonly error: unknown;
  readonly path: string;
  readonly rule: string;
}

/** A question to the network that is still to be put; it stands among the findings where its answer will stand. */
export interface Question {
  readonly path: string;
  readonly part: Part;
  readonly rule: AnyRule;
  readonly value: unknown;
  readonly siblings: unknown;
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** What a judging yields, in schema order. Paths grow on the way up. */
export type Entry = Mutable<Finding> | Mutable<Question> | Mutable<Fault>;

export const isQuestion = (entry: Entry): entry is Mutable<Question> => 'part' in entry;
export const isFault = (entry: Entry): entry is Mutable<Fault> => 'error' in entry;

/** One judging. */
export interface Run {
  readonly entries: Entry[];
  readonly catalogue: Catalogue | undefined;
  readonly now: Clock;
  /** Whether async rules leave their questions among the entries. */
  readonly questions: boolean;
  /** Whether keys that the schema does not know are findings. */
  readonly refuseUnknown: boolean;
  /** Whether values are judged by JSON's types: a number is no text. */
  readonly json: boolean;
  /** Whether something has no value of its type: data holds `HOLE` there, and callbacks must not get to see it. */
  broken: boolean;
  /** Whether entries have come out of schema order. */
  unsorted: boolean;
  /** How deep it is in parts that lie within themselves. */
  depth: number;
}

/** What an author may say of a judging. */
export interface RunOptions {
  /** The language of the messages; default English. */
  readonly messages?: Catalogue;
  /** `'refuse'`: keys that the schema does not know are findings. Default: they are dropped. */
  readonly unknown?: 'refuse';
  /** Whether the value is judged by JSON's types: a number is no text, `null` is none of them. Default: as forms hold it. */
  readonly json?: boolean;
  /** The present moment, for rules that speak of today. Default: that of the system. */
  readonly now?: Clock;
}

/** Begins a judging. */
export function newRun({ messages, unknown, json = false, now = () => new Date() }: RunOptions, questions = false): Run {
  const refuseUnknown = unknown === 'refuse';
  return { entries: [], catalogue: messages, now, questions, refuseUnknown, json, broken: false, unsorted: false, depth: 0 };
}

const NO_PARAMS = Object.freeze({});

/** Makes the finding of a verdict on a part; where it names a field further in, it is that field's, and called by its label. */
export function toFinding(
  path: string,
  judged: Part,
  rule: AnyRule | undefined,
  verdict: Verdict,
  catalogue: Catalogue | undefined,
): Finding {
  let part = judged;
  if (verdict.path) for (const key of verdict.path.split('.')) part = part.child(key) ?? part;
  const author: RuleOptions | undefined = verdict.bare ? undefined : rule;
  const params: Params = verdict.params ? { ...rule?.params, ...verdict.params } : (rule?.params ?? NO_PARAMS);
  return {
    path: verdict.path ? join(path, verdict.path) : path,
    code: author?.code ?? verdict.code,
    severity: verdict.severity ?? author?.severity ?? 'error',
    message: messageOf(part, rule, author, verdict, params, catalogue),
    params,
  };
}

function messageOf(
  part: Part,
  rule: AnyRule | undefined,
  author: RuleOptions | undefined,
  verdict: Verdict,
  params: Params,
  catalogue: Catalogue | undefined,
): string {
  // The same verdict of the same rule on the same part reads the same: rules without params of the moment reuse theirs.
  const before = part.said?.get(rule);
  if (before?.verdict === verdict && before.catalogue === catalogue) return before.message;
  const code = author?.code ?? verdict.code;
  const text =
    verdict.message ??
    author?.message ??
    part.messages?.[code] ??
    catalogue?.[code] ??
    // A code of the author's own has no text in the catalogue; the rule's may.
    catalogue?.[verdict.code] ??
    verdict.say ??
    customError;
  const spoken = {
    label: inLanguage(part.label, catalogue),
    kind: part.kind,
    ...params,
    ...('otherLabel' in params && { otherLabel: inLanguage(params['otherLabel'] as Label, catalogue) }),
  };
  const message = formatText(text, spoken, catalogue);
  (part.said ??= new Map()).set(rule, { verdict, catalogue, message });
  return message;
}

/** The verdict of a rule that threw. */
export const CRASHED: Verdict = { code: 'crashed', say: crashed, bare: true };

/** Reports what a rule said of a value. */
export function report(run: Run, part: Part, rule: AnyRule | undefined, told: Told): void {
  if (told === undefined) return;
  for (const verdict of Array.isArray(told) ? (told as readonly Verdict[]) : [told as Verdict]) {
    run.entries.push(toFinding('', part, rule, verdict, run.catalogue));
    if (verdict.path) run.unsorted = true;
  }
}

/** Reports a value that is none of its type. */
export function refuse(run: Run, part: Part, rule: AnyRule | undefined, verdict: Verdict): typeof HOLE {
  report(run, part, rule, verdict);
  run.broken = true;
  return HOLE;
}

/** Reports a rule that threw: an error on the field (fail closed), and a fault for the developer. */
export function reportCrash(run: Run, part: Part, rule: string, error: unknown): void {
  run.entries.push({ error, path: '', rule });
  report(run, part, undefined, CRASHED);
}

/** Puts a key before the paths of all that a child has reported. */
export function prefix({ entries }: Run, first: number, key: string | number): void {
  for (let i = first; i < entries.length; i += 1) entries[i]!.path = join(String(key), entries[i]!.path);
}

/** Brings entries into schema order: what is said of a field in the order of its rules, of a whole behind its parts. */
export function sortEntries({ entries }: Run, root: Part): void {
  const keyOf = ({ path }: Entry): string => {
    let part: Part | undefined = root;
    const places = path.split('.').map((name) => {
      const place = part?.placeOf(name);
      part = part?.child(name);
      return place === undefined ? 'x' : String(place).padStart(9, '0');
    });
    // Behind all digits: a whole stands behind its parts, and what the schema does not know behind what it knows.
    return `${places.join('')}x`;
  };
  const keys = new Map(entries.map((entry) => [entry, keyOf(entry)]));
  entries.sort((a, b) => (keys.get(a)! < keys.get(b)! ? -1 : Number(keys.get(a)! > keys.get(b)!)));
}
