// Why a field shows, or does not show, an error now, and what a form waits for: in sentences. What a form is at the moment says
// most of it; a trace adds how it came to that.

import { shownOf } from '../gate/fieldState.ts';
import { isAdded, type StoredVerdict } from '../gate/findings.ts';
import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { FieldNode } from '../gate/fieldNode.ts';
import type { BaseNode } from '../gate/node.ts';
import type { FormStore } from '../gate/store.ts';
import type { Status } from '../gate/submission.ts';
import type { Readable, TracedRule } from '../schema/kit.ts';
import { blocks } from '../schema/severity.ts';
import type { Stage } from '../schema/verdict.ts';
import { DEV, explain as withPlace } from '#development';
import { wrongUse } from '../schema/assertUse.ts';
import { ownName, type Entry, type Reason } from './entries.ts';
import { awaitedIn, isUnread, whyNot, whyNotAsync } from './reasons.ts';
import { holdsPrivate, mayBeMadeOf, privateAround } from './secrets.ts';
import { gateOf, type Trace } from './traceGate.ts';

const STAGES: readonly Stage[] = ['change', 'blur', 'submit'];
/** What has to happen, of the events of a form. */
const EVENTS = ['the field changes', 'the user leaves the field', 'the form is submitted'] as const;

const REASONS: Readonly<Record<Exclude<Reason, 'waits'>, string>> = {
  notApplying: 'the field does not apply',
  notYet: 'its moment has not come',
  empty: 'the field is empty',
  unreadable: 'the value cannot be read',
  hasErrors: 'another rule has found an error',
  covered: 'another rule of the field has reported already',
  untouched: 'nobody has edited or left the field',
};

const STATUS: Readonly<Record<Status, string>> = {
  editing: 'No submission is under way.',
  checking: 'A submission is being checked.',
  sending: 'It is being sent.',
  accepted: 'The last submission was accepted.',
  refused: 'The last submission was refused',
  failed: 'The last submission failed.',
};

const quoted = (text: string): string => JSON.stringify(text);
const joined = (texts: readonly string[]): string =>
  texts.length < 2 ? texts.join('') : `${texts.slice(0, -1).join(', ')} and ${texts.at(-1)!}`;

/** What a rule is called. */
const called = (rule: TracedRule): string => [rule.name, ownName(rule)].filter(Boolean).join(' ');

/** What a part is called in a sentence. */
const titled = (node: BaseNode): string => (node.parent ? quoted(node.label) : 'The form');

/** What a callback on a node waits for, as far as it can be told from who reads what. */
function awaitedBy(root: BaseNode, node: BaseNode): readonly Readable[] {
  const found = new Set<Readable>();
  const look = (read: Readable): void =>
    read.readers?.forEach((watch) => {
      if (watch.node === node && awaitedIn(watch.reads) === read) found.add(read);
    });
  root.forEach(look);
  // (Facts from outside know who reads them; nobody knows the facts.)
  const own = awaitedIn((node as Partial<FieldNode>).ownWatch?.reads ?? []);
  if (own) found.add(own);
  return [...found];
}

/** A finding as far as it may be told: not what may have been made of something private. */
function told(root: BaseNode, node: BaseNode, stored: StoredVerdict): string {
  const { severity, code, message } = stored.finding;
  const isHidden = privateAround(node) !== undefined || (holdsPrivate(root) && mayBeMadeOf(stored));
  return isHidden ? `${severity} ${code}` : `${severity} ${code} (${quoted(message)})`;
}

/**
 * Explains a field, or the form, as it is now: why it shows an error, or shows none; why it is not valid; what it waits for. What is
 * private is not quoted.
 *
 * @param of the gate, or a trace of it, which also knows what happened before
 * @param path the path of the field; default: the form
 * @returns sentences
 * @throws TypeError for a path that the form does not have
 *
 * @example
 * console.log(explain(gate, 'registration').join('\n'));
 */
export function explain(of: AnyGate | Trace, path = ''): readonly string[] {
  const { store, submission } = internalsOf(gateOf(of));
  const node = store.find(path);
  if (!node) throw wrongUse(DEV && withPlace('wrong-path', `The form has no field "${path}".`));
  const entries = 'entries' in of ? of.entries : [];
  const start = 'entries' in of ? Date.parse(of.toJSON().start) : 0;
  /** For how long a finding has been shown, as a trace knows. */
  const sinceShown = (code: string): string => {
    const at = entries.findLast((entry) => entry.kind === 'shown' && entry.path === path && entry.finding.code === code)?.at;
    return at === undefined ? 'is shown' : `has been shown for ${store.clock.now().getTime() - start - at} ms`;
  };
  /** What an async rule does, as a trace knows. */
  const doing = (rule: TracedRule): string => {
    const last = entries.findLast(
      (entry) =>
        (entry.kind === 'waiting' || entry.kind === 'started') &&
        entry.path === path &&
        entry.rule === rule.name &&
        entry.name === ownName(rule),
    );
    return !last
      ? 'waits for a pause in typing, or for its answer'
      : last.kind === 'waiting'
        ? `waits for a pause of ${last.pause} ms in typing`
        : `has waited for its answer for ${store.clock.now().getTime() - start - last.at} ms`;
  };
  if (!node.parent) return explainForm(store, submission.status, entries);
  const name = titled(node);
  if (node.removed) return [`${name} is gone: its row was removed.`];
  if (!node.applies) return [explainAbsence(store, node)];
  return [...explainFindings(store, node, sinceShown), ...explainRules(store, node, doing), ...explainBelow(node)];
}

/** Why a field does not apply. */
function explainAbsence(store: FormStore, node: BaseNode): string {
  const name = titled(node);
  for (let at: BaseNode | undefined = node; at; at = at.parent) {
    if (at.ownApplies) continue;
    const where = at === node ? '' : ` ${titled(at)}, around it,`;
    if (at.isOffered)
      return `${name} is not validated: nothing in ${at === node ? 'it' : titled(at)} is filled in, and it may be left out.`;
    if (at.disabled) return `${name} does not apply:${where || ' it'} is disabled. It is neither validated nor sent.`;
    const waits = awaitedBy(store.root, at).map(nameOf);
    return waits.length > 0
      ? `${name} does not apply: the condition (appliesWhen)${where && ` of${where}`} waits for ${joined(waits)}, which has no value yet.`
      : `${name} does not apply: the condition (appliesWhen)${where && ` of${where}`} does not hold${readsOf(store, at)}.`;
  }
  return `${name} does not apply.`;
}

/** What the condition of a node has read, as far as it can be told. */
function readsOf(store: FormStore, node: BaseNode): string {
  const reads: string[] = [];
  store.root.forEach((each) => each.readers?.forEach((watch) => watch.node === node && reads.push(nameOf(each))));
  return reads.length > 0 ? `; it reads ${joined([...new Set(reads)])}` : '';
}

const nameOf = (read: Readable): string =>
  'part' in read ? titled(read as BaseNode) : `the fact ${quoted(String((read as { name?: string }).name))}`;

/** The findings of a node: what is shown, and why the others are not. */
function explainFindings(store: FormStore, node: BaseNode, sinceShown: (code: string) => string): readonly string[] {
  const stored = node.verdicts?.stored ?? [];
  const name = titled(node);
  const shown = shownOf(node, node.findings, store);
  if (stored.length === 0) return [`${name} has no findings.`];
  return stored.map((each) => {
    const { finding } = each;
    const what = told(store.root, node, each);
    const from = isAdded(each) ? 'a server or the program' : each.rule ? called(each.rule) : 'reading the value';
    const lead = `${name} has the ${what} from ${from}.`;
    if (shown.includes(finding)) return `${lead} It ${sinceShown(finding.code)}.`;
    if (store.showsFirst && node.revealed)
      return `${lead} It is not shown: the form shows one finding of a field at a time (show: 'first').`;
    return `${lead} It is not shown yet: it shows when ${EVENTS[revealOf(store, node, each)]} (reveal: '${STAGES[revealOf(store, node, each)]!}').`;
  });
}

/** The rank of the event from which a finding is shown. */
const revealOf = (store: FormStore, { part }: BaseNode, { rule }: StoredVerdict): 0 | 1 | 2 => {
  const stage = rule?.reveal ?? part.settings.reveal;
  return (stage === undefined ? store.revealRank : STAGES.indexOf(stage)) as 0 | 1 | 2;
};

/** What its rules did, and what they wait for. */
function explainRules(store: FormStore, node: BaseNode, doing: (rule: TracedRule) => string): readonly string[] {
  const name = titled(node);
  const live = (node.liveRules ?? []).map(({ rule }) => rule);
  const sync = [...new Set([...node.part.ruleList.filter((rule) => !rule.async && !rule.moving), ...live])] as readonly TracedRule[];
  const sentences: string[] = [];
  if (isUnread(node)) sentences.push('Its value cannot be read, so no other rule runs.');
  const why = new Map<Reason, string[]>();
  for (const rule of sync) {
    const reason = whyNot(node, rule);
    if (reason && !(reason === 'unreadable')) why.set(reason, [...(why.get(reason) ?? []), called(rule)]);
  }
  for (const [reason, rules] of why) {
    const [first] = sync.filter((rule) => rules.includes(called(rule)));
    const moment = reason === 'notYet' ? ` It runs when ${EVENTS[STAGES.indexOf(first!.on ?? STAGES[store.onRank]!)]!}.` : '';
    sentences.push(`${joined(rules)} did not run: ${REASONS[reason as Exclude<Reason, 'waits'>]}.${moment}`);
  }
  const waits = awaitedBy(store.root, node).filter((read) => read !== node);
  if (waits.length > 0)
    sentences.push(`A rule waits for ${joined(waits.map(nameOf))}, which has no value yet. Until then it finds nothing.`);
  for (const { rule, isAnswered } of node.asyncRunners ?? []) {
    const of = called(rule);
    const reason = whyNotAsync(node, rule);
    if (node.pending > 0) sentences.push(`${of} ${doing(rule)}. Until then ${name} is pending.`);
    else if (isAnswered) sentences.push(`${of} has an answer to the value.`);
    else if (reason && reason !== 'waits') sentences.push(`${of} did not run: ${REASONS[reason]}.`);
    else sentences.push(`${of} has no answer to the value.`);
  }
  if (store.lackingNodes?.isAt(node)) sentences.push('A fact from outside, or its options, have not come: it is not valid until then.');
  return sentences;
}

/** What is wrong further in. */
function explainBelow(node: BaseNode): readonly string[] {
  const wrong: string[] = [];
  node.forEach((each) => each !== node && each.findings.some(blocks) && wrong.push(each.path));
  return wrong.length > 0 ? [`Further in, there are errors at ${joined(wrong)}.`] : [];
}

/** The form as a whole. */
function explainForm(store: FormStore, status: Status, entries: readonly Entry[]): readonly string[] {
  const { root } = store;
  const sentences: string[] = [];
  const wrong: string[] = [];
  const pending: string[] = [];
  const hidden: string[] = [];
  root.forEach((node) => {
    const errors = node.verdicts?.errors ?? [];
    if (errors.length > 0) wrong.push(node.parent ? node.path : 'the form itself');
    if (errors.length > 0 && node.parent && !errors.some((each) => shownOf(node, node.findings, store).includes(each)))
      hidden.push(node.path);
    if ((node.asyncRunners?.length ?? 0) > 0 && node.pending > 0) pending.push(node.path);
  });
  sentences.push(
    store.isValid(root)
      ? 'The form is valid: no rule has found an error.'
      : wrong.length > 0
        ? `The form is not valid: there are errors at ${joined(wrong)}.`
        : 'The form is not valid.',
  );
  if (hidden.length > 0) sentences.push(`Nobody sees those at ${joined(hidden)} yet.`);
  const lacking: string[] = [];
  if (store.lackingNodes)
    root.forEach((node) => store.lackingNodes!.isAt(node) && lacking.push(node.parent ? node.path : 'the form itself'));
  if (lacking.length > 0) sentences.push(`A fact from outside, or options, that ${joined(lacking)} needs have not come.`);
  if (pending.length > 0) sentences.push(`It waits for async rules at ${joined(pending)}.`);
  for (const each of root.verdicts?.stored ?? []) {
    const { context } = each.finding.params;
    sentences.push(
      typeof context === 'string'
        ? `The fact ${quoted(context)} was not given: call gate.setContext().`
        : `The form itself has the ${told(root, root, each)}.`,
    );
  }
  sentences.push(status === 'refused' ? `${STATUS.refused}${lastSubmission(entries)}.` : STATUS[status]);
  return sentences;
}

/** Who refused last, as a trace knows. */
function lastSubmission(entries: readonly Entry[]): string {
  const last = entries.findLast((entry) => entry.kind === 'submission');
  return last?.kind === 'submission' && last.by ? ` by the ${last.by}` : '';
}
