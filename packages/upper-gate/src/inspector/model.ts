// What the inspector shows of a form, as plain data: the rows of its tree, and all that is known of one field. What is private is dots.

import { shownOf } from '../gate/fieldState.ts';
import { isAdded, type StoredVerdict } from '../gate/findings.ts';
import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import type { Readable, TracedRule } from '../schema/kit.ts';
import { keysOf } from '../schema/finding.ts';
import { NO_VALUE } from '../schema/noValue.ts';
import type { Severity } from '../schema/severity.ts';
import { ownName, type Entry } from '../trace/entries.ts';
import { explain } from '../trace/explain.ts';
import { openValue, plain } from '../trace/plain.ts';
import { openPath, privateAround, Secrets } from '../trace/secrets.ts';
import type { Trace } from '../trace/traceGate.ts';

/** What stands in place of a private value. */
const DOTS = '••••';
/** Longer values are cut. */
const LONGEST = 60;

/** A field, group or list, as a row of the tree. */
export interface TreeRow {
  readonly path: string;
  readonly label: string;
  readonly kind: string;
  readonly depth: number;
  /** What it holds, as a text; nothing for what has parts. */
  readonly raw: string | undefined;
  /** Its states, in words. */
  readonly states: readonly string[];
  /** How many findings it has, how many of them are shown, and how grave the gravest is. */
  readonly found: number;
  readonly shown: number;
  readonly severity: Severity | undefined;
}

/** A finding of a field. The message is absent where it may have been made of something private. */
export interface FindingRow {
  readonly severity: Severity;
  readonly code: string;
  readonly message: string | undefined;
  readonly by: string;
  readonly isShown: boolean;
}

/** A rule on a field: what it has read, and what came of it, as far as the trace knows. */
export interface RuleRow {
  readonly name: string;
  readonly reads: readonly string[];
  readonly came: string | undefined;
}

/** All that is known of a field. */
export interface Details {
  readonly path: string;
  readonly label: string;
  readonly kind: string;
  readonly values: readonly (readonly [name: string, value: string])[];
  readonly states: readonly string[];
  readonly findings: readonly FindingRow[];
  readonly rules: readonly RuleRow[];
  /** The paths of what it reads, and of what reads it. */
  readonly reads: readonly string[];
  readonly readBy: readonly string[];
  /** Why it shows an error, or none, in sentences. */
  readonly why: readonly string[];
}

/** A value as a text. */
function written(value: unknown): string {
  if (value === undefined) return 'undefined';
  const text = JSON.stringify(plain(value));
  return text.length > LONGEST ? `${text.slice(0, LONGEST - 1)}…` : text;
}

const rootOf = (gate: AnyGate): BaseNode => internalsOf(gate).store.root;

/** The words for what a node is. */
function statesOf(node: BaseNode): readonly string[] {
  return [
    ...(node.applies ? [] : ['does not apply']),
    ...(node.disabled ? ['disabled'] : []),
    ...(node.pending > 0 ? ['pending'] : []),
    ...(node.dirty > 0 ? ['dirty'] : []),
    ...(node.touched > 0 ? ['touched'] : []),
    ...(node.revealed ? ['revealed'] : []),
  ];
}

/** The rows of the tree, in the order of the schema. @param filter a part of a path or label; empty: all */
export function treeOf(gate: AnyGate, filter: string): readonly TreeRow[] {
  const { store } = internalsOf(gate);
  const wanted = filter.trim().toLowerCase();
  const rows: TreeRow[] = [];
  store.root.forEach((node) => {
    const path = openPath(node);
    // (What stands only for a case of an either-or has the path of that.)
    if (node.parent?.path === node.path || (privateAround(node) && path !== node.path)) return;
    const label = node.parent ? node.label : 'The form';
    if (wanted !== '' && !path.toLowerCase().includes(wanted) && !label.toLowerCase().includes(wanted)) return;
    const { findings } = node;
    rows.push({
      path,
      label,
      kind: node.part.kind,
      depth: wanted === '' ? keysOf(path).length : 0,
      raw: node.part.traits.hasParts ? undefined : privateAround(node) ? DOTS : written(node.raw),
      states: statesOf(node),
      found: findings.length,
      shown: shownOf(node, findings, store).length,
      severity: (['error', 'warning', 'notice'] as const).find((severity) => findings.some((each) => each.severity === severity)),
    });
  });
  return rows;
}

const nameOf = (read: Readable): string =>
  'part' in read ? openPath(read as BaseNode) : `the fact ${String((read as { readonly name?: string }).name)}`;

/** What callbacks on a node read, and which nodes have callbacks that read it. */
function readsOf(root: BaseNode, node: BaseNode): Pick<Details, 'reads' | 'readBy'> {
  const reads = new Set<string>();
  root.forEach((each) => each.readers?.forEach((watch) => watch.node === node && each !== node && reads.add(nameOf(each))));
  const readBy = new Set<string>();
  node.readers?.forEach((watch) => {
    const by = openPath(watch.node as BaseNode);
    if (by !== node.path) readBy.add(by === '' ? 'the form' : by);
  });
  return { reads: [...reads], readBy: [...readBy] };
}

/** The rules on a node. */
const rulesAt = (node: BaseNode): readonly TracedRule[] => [
  ...new Set<TracedRule>([
    ...(node.part.ruleList as readonly TracedRule[]),
    ...(node.liveRules ?? []).map(({ rule }) => rule),
    ...(node.asyncRunners ?? []).map(({ rule }) => rule),
  ]),
];

/** What a rule did last, as a trace knows. */
function courseOf(rule: TracedRule, path: string, entries: readonly Entry[]): Pick<RuleRow, 'reads' | 'came'> {
  const isOf = (entry: Entry): boolean =>
    'rule' in entry &&
    'path' in entry &&
    entry.path === path &&
    entry.rule === rule.name &&
    (!('name' in entry) || entry.name === ownName(rule));
  const last = entries.findLast((entry) => isOf(entry) && entry.kind !== 'found' && entry.kind !== 'faulted');
  const reads = last && 'reads' in last ? last.reads : [];
  if (!last) return { reads, came: undefined };
  const found = 'found' in last ? last.found.map(({ code }) => code).join(', ') || 'nothing' : '';
  const came =
    last.kind === 'skipped'
      ? `did not run (${last.why}${last.for === undefined ? '' : `: ${last.for}`})`
      : last.kind === 'ran'
        ? `ran, and found ${found}`
        : last.kind === 'answered' || last.kind === 'recalled'
          ? `${last.kind}: ${found}`
          : last.kind;
  return { reads, came };
}

function findingRow(secrets: Secrets, node: BaseNode, stored: StoredVerdict, shown: readonly unknown[]): FindingRow {
  const { finding, rule } = stored as StoredVerdict & { readonly rule?: TracedRule };
  return {
    severity: finding.severity,
    code: finding.code,
    message: privateAround(node) ? undefined : secrets.scrub(finding.message),
    by: isAdded(stored) ? 'a server or the program' : rule ? [rule.name, ownName(rule)].filter(Boolean).join(' ') : 'reading the value',
    isShown: shown.includes(finding),
  };
}

/** All that is known of a field; undefined if the form has it no more. */
export function detailsOf(gate: AnyGate, trace: Trace | undefined, path: string): Details | undefined {
  const { store } = internalsOf(gate);
  const node = store.find(path);
  if (!node) return undefined;
  const root = rootOf(gate);
  const secrets = new Secrets();
  root.forEach((each) => privateAround(each) && secrets.note(each));
  const isPrivate = privateAround(node) !== undefined;
  const handle = path === '' ? gate.root : gate.field(path);
  const shown = shownOf(node, node.findings, store);
  const value = (of: unknown): string => (isPrivate ? DOTS : of === NO_VALUE ? 'no value' : written(of));
  const { valid, validated, required } = handle;
  return {
    path,
    label: node.parent ? node.label : 'The form',
    kind: node.part.kind,
    values: [
      ['raw', value(isPrivate ? undefined : openValue(node))],
      [
        'data',
        value(
          isPrivate
            ? undefined
            : node.part.traits.hasParts
              ? openValue(node, ({ data }) => (data === NO_VALUE ? undefined : data))
              : node.data,
        ),
      ],
    ],
    states: [
      valid ? 'valid' : 'not valid',
      ...(validated ? [] : ['not validated yet']),
      ...(required ? ['required'] : []),
      ...statesOf(node),
    ],
    findings: (node.verdicts?.stored ?? []).map((stored) => findingRow(secrets, node, stored, shown)),
    rules: rulesAt(node).map((rule) => ({
      name: [rule.name, ownName(rule)].filter(Boolean).join(' '),
      ...courseOf(rule, openPath(node), trace?.entries ?? []),
    })),
    ...readsOf(root, node),
    why: explain(trace ?? gate, path),
  };
}
