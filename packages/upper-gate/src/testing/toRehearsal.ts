// From what a page has recorded to a rehearsal that does the same.

import { keysOf } from '../schema/finding.ts';
import type { Node } from '../schema/node.ts';
import { isField } from '../schema/field.ts';
import { partOf, type Part } from '../schema/part.ts';
import type { Entry, TraceData, TracedFinding } from '../trace/entries.ts';
import type { Trace } from '../trace/traceGate.ts';
import { general } from './answers.ts';
import { findIn, poolOf, generatorsOf, textMaker, type PropertyLibrary } from './samples/arbitrary.ts';
import type { Answer, Script, Step, SubmissionAnswer } from './script.ts';

/** A rehearsal that was made of a trace. */
export interface MadeRehearsal {
  readonly script: Script;
  /** What the trace does not say, and the rehearsal therefore does otherwise, in words. */
  readonly gaps: readonly string[];
}

/** An entry of a kind. */
type Of<K extends Entry['kind']> = Extract<Entry, { kind: K }>;

/** A finding as a rule or a server returns it. @param at the path that its own is relative to */
function given({ path, code, severity, message, params }: TracedFinding, at: string) {
  const relative = path === at ? '' : at === '' ? path : path.startsWith(`${at}.`) ? path.slice(at.length + 1) : path;
  return {
    code,
    severity,
    ...(message !== undefined && { message }),
    ...(params && { params }),
    ...(relative !== '' && { path: relative }),
  };
}

/**
 * Makes a rehearsal of a trace: it does again what was done, and answers as was answered, so that it has the same timeline. A private
 * value, which a trace never holds, becomes a stand-in with the same findings, where one is found.
 *
 * @param schema the schema of the form
 * @param of the trace, or its data
 * @returns the rehearsal, for `rehearse` and `upper-gate rehearse`, and what is missing in it
 *
 * @example
 * const { script, gaps } = await toRehearsal(passage, trace);
 * await rehearse(passage, script);
 */
export async function toRehearsal(schema: Node, of: Trace | TraceData): Promise<MadeRehearsal> {
  const trace = 'toJSON' in of ? of.toJSON() : of;
  const { entries } = trace;
  const gaps = new Set<string>();
  const standIns = await makeStandIns(schema, entries);
  const steps: Step[] = [];
  let now = 0;
  if (trace.dropped > 0) gaps.add(`The first ${trace.dropped} entries were dropped from the trace: what they did is missing.`);
  if (trace.shown.length > 0) gaps.add('The trace began when something was shown already: the rehearsal begins with a new form.');

  const add = (entry: Entry, step: Step): void => {
    if (entry.at > now) steps.push({ waits: entry.at - now });
    now = Math.max(now, entry.at);
    steps.push(step);
  };
  /** The value of an edit, or what stands for it. */
  const valueOf = (entry: Of<'edited' | 'rebased' | 'rowAdded'>): unknown => {
    if (entry.raw !== undefined) return entry.raw;
    const standIn = standIns(entry);
    if (standIn.isGap)
      gaps.add(`No stand-in with the same findings was found for the private value of "${entry.path}": the rehearsal has another.`);
    return standIn.value;
  };
  const isOfUser = ({ by }: { readonly by: string }): boolean => by === 'page';

  for (const entry of entries) {
    switch (entry.kind) {
      case 'edited':
        if (entry.by === 'rule') break;
        add(entry, isOfUser(entry) ? { enters: entry.path, value: valueOf(entry) } : { sets: entry.path, value: valueOf(entry) });
        break;
      case 'left':
        if (isOfUser(entry)) add(entry, { leaves: entry.path });
        else gaps.add(`The program left "${entry.path}": the rehearsal does not.`);
        break;
      case 'rowAdded':
        add(entry, { adds: entry.path, value: entry.raw === undefined ? undefined : entry.raw, at: entry.to });
        break;
      case 'rowRemoved':
        add(entry, { removes: entry.path, row: entry.from });
        break;
      case 'rowMoved':
        add(entry, { moves: entry.path, from: entry.from, to: entry.to });
        break;
      case 'submitted':
        add(entry, { submits: true });
        break;
      case 'reset':
        add(entry, { resets: entry.path, ...(entry.path === '' && entry.raw !== undefined && { value: entry.raw }) });
        break;
      case 'rebased':
        add(entry, { rebases: nested(entry.path, valueOf(entry)) });
        break;
      case 'validated':
        if (entry.cause === undefined) add(entry, { validates: entry.path, reveal: entry.reveals });
        break;
      case 'contextChanged':
        if ('value' in entry) add(entry, { learns: entry.name, value: entry.value });
        else gaps.add(`The value of the context "${entry.name}" is not in the trace: record it with traceGate(gate, { withData: true }).`);
        break;
      case 'found':
        // (What the server found in a submission, that answers.)
        if (entry.by !== undefined && entry.cause === undefined)
          add(entry, { finds: [{ ...given(entry.finding, ''), path: entry.finding.path }] });
        break;
      default:
        break;
    }
  }
  if (trace.length > now) steps.push({ waits: trace.length - now });
  const { on, reveal, show } = trace;
  const submissions = submissionsIn(entries, gaps);
  return {
    script: {
      start: trace.start,
      on,
      reveal,
      show,
      initial: trace.raw,
      answers: answersIn(entries, gaps),
      ...(submissions.length > 0 && { submissions }),
      steps,
    },
    gaps: [...gaps],
  };
}

const nested = (path: string, value: unknown): unknown => keysOf(path).reduceRight((inner, key) => ({ [key]: inner }), value);

/** The answers of async rules, by the names of the rules, or their paths. */
function answersIn(entries: readonly Entry[], gaps: Set<string>): Readonly<Record<string, readonly Answer[]>> {
  const answers: Record<string, Answer[]> = {};
  const isSame = (a: Of<'started'>, b: Entry): boolean =>
    'rule' in b && 'path' in b && a.path === b.path && a.rule === b.rule && (!('name' in b) || a.name === b.name);
  entries.forEach((entry, index) => {
    if (entry.kind !== 'started') return;
    const own = entries.slice(index + 1).filter((each) => isSame(entry, each));
    const ended = own.find((each): each is Of<'answered' | 'unanswered' | 'aborted'> =>
      ['answered', 'unanswered', 'aborted'].includes(each.kind),
    );
    const which = entry.name === undefined ? general(entry.path) : `${general(entry.path)} ${entry.name}`;
    const fault = ended && entries[entries.indexOf(ended) - 1];
    (answers[which] ??= []).push(answerOf(entry, ended, fault, own, gaps));
  });
  return answers;
}

function answerOf(
  started: Of<'started'>,
  ended: Of<'answered' | 'unanswered' | 'aborted'> | undefined,
  fault: Entry | undefined,
  own: readonly Entry[],
  gaps: Set<string>,
): Answer {
  if (!ended) return { never: true };
  const read = ended.reads.length > 0 ? { reads: ended.reads } : {};
  const after = ended.at - started.at;
  if (ended.kind === 'answered') {
    if (ended.options) return { after, options: ended.options as never, ...read };
    if (ended.found.some(({ message }) => message === undefined))
      gaps.add(`What ${started.name ?? started.rule} answered at "${started.path}" is private: its messages are missing.`);
    return { after, answer: ended.found.length === 0 ? true : ended.found.map((finding) => given(finding, started.path)), ...read };
  }
  if (ended.kind === 'unanswered') {
    const { why } = ended;
    if (why === 'timeout') return { never: true, ...read };
    // (The fault stands right before it.)
    const text = fault?.kind === 'faulted' ? fault.error.replace(/^\w+: /, '') : why;
    return why === 'crashed' ? { after, crashes: text, ...read } : { after, fails: text, ...read };
  }
  const late = own.find(({ kind, cause }) => kind === 'cameLate' && cause === started.n);
  return late ? { after: late.at - started.at, ...read } : { never: true, ...read };
}

/** The answers to submissions. */
function submissionsIn(entries: readonly Entry[], gaps: Set<string>): readonly SubmissionAnswer[] {
  return entries.flatMap((entry, index): readonly SubmissionAnswer[] => {
    if (entry.kind !== 'submission' || entry.status !== 'sending') return [];
    const rest = entries.slice(index + 1);
    const ended = rest.find((each): each is Of<'submission'> => each.kind === 'submission');
    if (!ended || ended.status === 'editing') return [{ never: true }];
    const after = ended.at - entry.at;
    if (ended.status === 'failed') return [{ after, fails: 'failed' }];
    if (ended.status !== 'refused') return [{ after }];
    const found = rest.filter((each): each is Of<'found'> => each.kind === 'found' && each.cause === entry.n);
    if (found.some(({ finding }) => finding.message === undefined))
      gaps.add('What the server answered may be private: its messages are missing.');
    if (found.length === 0) {
      // They were about a value that had changed meanwhile, and will be again.
      const changed = rest.find((each): each is Of<'edited'> => each.kind === 'edited' && each.n < ended.n);
      if (!changed) gaps.add('The server refused with nothing that a field has: the rehearsal refuses with the form as a whole.');
      return [{ after, refuse: changed ? [{ path: changed.path, message: 'Refused' }] : { status: 422 } }];
    }
    return [{ after, refuse: found.map(({ finding }) => ({ ...given(finding, ''), path: finding.path })) }];
  });
}

/** What stands for private values: with the same findings as these had. */
async function makeStandIns(schema: Node, entries: readonly Entry[]) {
  const isPrivate = entries.some(({ kind, ...entry }) => (kind === 'edited' || kind === 'rebased') && !('raw' in entry));
  const fc: PropertyLibrary | undefined = isPrivate ? await import('fast-check').catch(() => undefined) : undefined;
  const texts = fc ? textMaker(generatorsOf(fc), 1) : () => [];
  /** What stands in private fields, as the trace goes on. */
  const held = new Map<string, unknown>();
  return (entry: Entry & { readonly path: string }): { readonly value: unknown; readonly isGap: boolean } => {
    const part = locate(partOf(schema), keysOf(entry.path));
    if (!part || !isField(part)) return { value: '', isGap: true };
    const { path, n } = entry;
    const after = entries.filter(
      (each): each is Of<'ran' | 'skipped'> => (each.kind === 'ran' || each.kind === 'skipped') && each.path === path && each.cause === n,
    );
    const before = held.has(path) ? held.get(path) : part.emptyRaw;
    // (That it is empty is only entered once.)
    const isEmpty = after.length === 0 ? before === part.emptyRaw : after.some((each) => each.kind === 'skipped' && each.why === 'empty');
    const isUnread = after.some((each) => each.kind === 'skipped' && each.why === 'unreadable');
    const codes = isUnread
      ? 'badInput'
      : listed(after.flatMap((each) => (each.kind === 'ran' && each.reads.length === 0 ? each.found : [])));
    const { right, wrong } = poolOf(part, texts);
    const fitting = isEmpty
      ? [part.emptyRaw]
      : [...right, ...wrong].filter((raw) => raw !== part.emptyRaw && listed(findIn(part, raw).map(({ verdict }) => verdict)) === codes);
    // (The same value again would be no edit.)
    const value = [...fitting, ...right].find((raw) => raw !== before) ?? '';
    held.set(path, value);
    return { value, isGap: !fitting.includes(value) };
  };
}

const listed = (found: readonly { readonly code: string }[]): string =>
  found
    .map(({ code }) => code)
    .sort()
    .join();

/** The part at a path, through rows. */
function locate(part: Part | undefined, [key, ...rest]: readonly string[]): Part | undefined {
  return key === undefined || !part ? part : locate(part.locate?.(key)?.part, rest);
}
