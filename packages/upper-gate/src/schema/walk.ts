// One judging of a whole value: what the parts of a schema hand their findings to, and how a verdict of a rule becomes
// a finding.

import { crashed, customError } from '../messages/en.ts';
import { formatText, inLanguage, type Catalogue, type Label } from '../messages/text.ts';
import { join, type Finding, type Params } from './finding.ts';
import { NO_VALUE, type Part } from './node.ts';
import type { AnyRule, Clock, RuleResult, RuleOptions, Verdict } from './rule.ts';

/** Where a fault happened: in which rule, on which field. */
export interface Fault {
  /** What was thrown, or what is wrong. */
  readonly error: unknown;
  readonly path: string;
  readonly rule: string;
}

/** A question to the network that is still to be put; it stands among the findings where its answer will stand. */
export interface PendingCheck {
  readonly path: string;
  readonly part: Part;
  readonly rule: AnyRule;
  readonly value: unknown;
  readonly siblings: unknown;
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** What a judging yields, in schema order. Paths grow on the way up. */
export type Entry = Mutable<Finding> | Mutable<PendingCheck> | Mutable<Fault>;

export const isPendingCheck = (entry: Entry): entry is Mutable<PendingCheck> => 'part' in entry;
export const isFault = (entry: Entry): entry is Mutable<Fault> => 'error' in entry;

/**
 * How a value is held: `'form'` as controls and request bodies of forms hold it (mostly text), `'json'` by JSON's own
 * types (a number is not a text, `null` is a type of its own).
 */
export type ValueSource = 'form' | 'json';

/** One judging. */
export interface Walk {
  readonly entries: Entry[];
  readonly catalogue: Catalogue | undefined;
  readonly now: Clock;
  /** Whether async rules leave their questions among the entries. */
  readonly collectAsync: boolean;
  /** Whether keys that the schema does not know are findings. */
  readonly refuseUnknown: boolean;
  /** How the value is held. */
  readonly source: ValueSource;
  /** Whether something has no value of its type: data holds `HOLE` there, and callbacks must not get to see it. */
  incomplete: boolean;
  /** Whether entries have come out of schema order. */
  unsorted: boolean;
  /** How deep it is in parts that lie within themselves. */
  depth: number;
}

/** What an author may say of a judging. */
export interface WalkOptions {
  /** The language of the messages; default English. */
  readonly messages?: Catalogue;
  /** `'refuse'`: keys that the schema does not know are findings. Default: they are dropped. */
  readonly unknown?: 'refuse';
  /** How the value is held. Default `'form'`. */
  readonly source?: ValueSource;
  /** The present moment, for rules that speak of today. Default: that of the system. */
  readonly now?: Clock;
}

/** Begins a judging. */
export function newWalk({ messages, unknown, source = 'form', now = () => new Date() }: WalkOptions, questions = false): Walk {
  const refuseUnknown = unknown === 'refuse';
  return {
    entries: [],
    catalogue: messages,
    now,
    collectAsync: questions,
    refuseUnknown,
    source,
    incomplete: false,
    unsorted: false,
    depth: 0,
  };
}

const NO_PARAMS = Object.freeze({});

/** Makes the finding of a verdict on a part; where it names a field further in, it is that field's, and called by its label. */
export function toFinding(
  path: string,
  target: Part,
  rule: AnyRule | undefined,
  verdict: Verdict,
  catalogue: Catalogue | undefined,
): Finding {
  let part = target;
  if (verdict.path) for (const key of verdict.path.split('.')) part = part.child(key) ?? part;
  const author: RuleOptions | undefined = verdict.ignoresOptions ? undefined : rule;
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
  const before = part.worded?.get(rule);
  if (before?.verdict === verdict && before.catalogue === catalogue) return before.message;
  const code = author?.code ?? verdict.code;
  const text =
    verdict.message ??
    author?.message ??
    part.messages?.[code] ??
    catalogue?.[code] ??
    // A code of the author's own has no text in the catalogue; the rule's may.
    catalogue?.[verdict.code] ??
    verdict.text ??
    customError;
  const spoken = {
    label: inLanguage(part.label, catalogue),
    kind: part.kind,
    ...params,
    ...('otherLabel' in params && { otherLabel: inLanguage(params['otherLabel'] as Label, catalogue) }),
  };
  const message = formatText(text, spoken, catalogue);
  (part.worded ??= new Map()).set(rule, { verdict, catalogue, message });
  return message;
}

/** The verdict of a rule that threw. */
export const CRASHED: Verdict = { code: 'crashed', text: crashed, ignoresOptions: true };

/** Reports what a rule said of a value. */
export function report(run: Walk, part: Part, rule: AnyRule | undefined, result: RuleResult): void {
  if (result === undefined) return;
  for (const verdict of Array.isArray(result) ? (result as readonly Verdict[]) : [result as Verdict]) {
    run.entries.push(toFinding('', part, rule, verdict, run.catalogue));
    if (verdict.path) run.unsorted = true;
  }
}

/** Reports a value that is none of its type. */
export function rejectValue(run: Walk, part: Part, rule: AnyRule | undefined, verdict: Verdict): typeof NO_VALUE {
  report(run, part, rule, verdict);
  run.incomplete = true;
  return NO_VALUE;
}

/** Reports a rule that threw: an error on the field (fail closed), and a fault for the developer. */
export function reportCrash(run: Walk, part: Part, rule: string, error: unknown): void {
  run.entries.push({ error, path: '', rule });
  report(run, part, undefined, CRASHED);
}

/** Puts a key before the paths of all that a child has reported. */
export function prefixPaths({ entries }: Walk, first: number, key: string | number): void {
  for (let i = first; i < entries.length; i += 1) entries[i]!.path = join(String(key), entries[i]!.path);
}

/** Brings entries into schema order: what is said of a field in the order of its rules, of a whole behind its parts. */
export function sortEntries({ entries }: Walk, root: Part): void {
  const keyOf = ({ path }: Entry): string => {
    let part: Part | undefined = root;
    const places = path.split('.').map((name) => {
      const place = part?.positionOf(name);
      part = part?.child(name);
      return place === undefined ? 'x' : String(place).padStart(9, '0');
    });
    // Behind all digits: a whole stands behind its parts, and what the schema does not know behind what it knows.
    return `${places.join('')}x`;
  };
  const keys = new Map(entries.map((entry) => [entry, keyOf(entry)]));
  entries.sort((a, b) => (keys.get(a)! < keys.get(b)! ? -1 : Number(keys.get(a)! > keys.get(b)!)));
}
