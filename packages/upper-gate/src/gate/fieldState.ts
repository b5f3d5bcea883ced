// What is known of a field at one moment, as an object that stays the same until something in it changes.

import { slotsOf } from '../evaluate/finding.ts';
import { count } from '../messages/english.ts';
import { formatText, inLanguage, type Catalogue, type Label } from '../messages/text.ts';
import { lengthOf } from '../rules/length.ts';
import type { Finding, Params } from '../schema/finding.ts';
import type { List } from '../schema/list/list.ts';
import { inWords, type TextOptions } from '../schema/option.ts';
import { NO_VALUE } from '../schema/noValue.ts';
import type { CHILDREN, DATA, Node } from '../schema/node.ts';
import { gravest, showsEarly } from '../schema/severity.ts';
import type { Reporter } from '../schema/verdict.ts';
import type { BaseNode } from './node.ts';
import type { FormStore } from './store.ts';

/** Data as far as it is known: in a group, fields that are not valid are `undefined`. */
export type DataSoFar<N extends Node> =
  N extends List<infer I>
    ? DataSoFar<I>[]
    : keyof N[typeof CHILDREN] extends never
      ? N[typeof DATA] | undefined
      : FieldsSoFar<N[typeof DATA], N[typeof CHILDREN]>;
type FieldsSoFar<D, C> = D extends object ? { [P in keyof D]: P extends keyof C ? FieldSoFar<D[P], C[P]> : D[P] } : D;
type FieldSoFar<D, N> = N extends Node ? (keyof N[typeof CHILDREN] extends never ? D : DataSoFar<N>) | undefined : never;

/** The state of a field at one moment. The same object until something in it changes. */
export interface FieldState<D = unknown, R = unknown> {
  readonly path: string;
  readonly label: string;
  readonly hint: string | undefined;
  /** What the control holds. */
  readonly raw: R;
  /** The typed value; `undefined` if it is empty, cannot be read or does not apply. */
  readonly data: D | undefined;
  /** What the rules found, shown or not. */
  readonly findings: readonly Finding[];
  /** The findings that the user may see. */
  readonly shown: readonly Finding[];
  /** The findings that block. */
  readonly errors: readonly Finding[];
  /** Whether the user has left the field. */
  readonly touched: boolean;
  /** Whether its data differs from the saved value: the initial one, or the one accepted last. */
  readonly dirty: boolean;
  /** Whether an async rule is under way. */
  readonly pending: boolean;
  /** Whether there is no error, here or below. */
  readonly valid: boolean;
  /** Whether all rules of the field itself have run on its value. */
  readonly validated: boolean;
  /** Whether findings may be shown. */
  readonly revealed: boolean;
  /** Whether it can be filled in: its conditions hold, and it is not disabled. */
  readonly applies: boolean;
  /** Whether its row was removed. */
  readonly removed: boolean;
  readonly required: boolean;
  /** How much of what `length({ max })` allows is used, as a counter shows it: `'18 of 120'`. Undefined without that rule. */
  readonly counter: string | undefined;
  /**
   * The params of the rules, by rule: `params.length?.max`. Params that depend on other fields are absent until they are
   * known.
   */
  readonly params: Readonly<Record<string, Params>>;
  /** The values of a choice in order, as controls hold them; undefined for other kinds, and until they are known. */
  readonly options: TextOptions | undefined;
  /** The HTML attributes of limits that depend on other fields, as they are now (`min`, `max`, `step`, ...). */
  readonly attributes: Readonly<Record<string, string>>;
}

/** The state of a field without its values: those of a large group take long to build. */
export type Facts = Omit<FieldState, 'raw' | 'data'>;

/** The snapshots of a node, until something in it changes. */
interface Snapshot {
  readonly facts: Facts;
  /** With the values; of a whole, once somebody has asked for those. */
  state: FieldState | undefined;
}

/** What is known of a node, but for its values. */
export const factsOf = (store: FormStore, node: BaseNode): Facts => snapshotOf(store, node).facts;

/** All that is known of a node. */
export function stateOf(store: FormStore, node: BaseNode): FieldState {
  const snapshot = snapshotOf(store, node);
  return (snapshot.state ??= { ...snapshot.facts, raw: node.raw, data: dataOf(node) });
}

/** The data of a node as a handle has it. */
export function dataOf(node: BaseNode): unknown {
  const { data, applies } = node;
  return data === NO_VALUE || !applies ? undefined : data;
}

function snapshotOf(store: FormStore, node: BaseNode): Snapshot {
  const before = node.snapshot as Snapshot | undefined;
  // A row may have moved without anything else in it having changed.
  if (before !== undefined && before.facts.path === node.path) return before;
  const { part, findings } = node;
  const { catalogue } = store;
  const params = paramsOf(node);
  // Most fields have no findings, most of the time.
  const none = findings.length === 0;
  // (Written out: Node 20 takes long for an object that is spread.)
  const facts: Facts = {
    path: node.path,
    label: node.label,
    hint: part.hint === undefined ? undefined : hintOf(node, part.hint, params, catalogue),
    findings,
    shown: shownOf(node, findings, store),
    errors: none ? findings : node.verdicts!.errors,
    touched: node.touched > 0,
    dirty: node.dirty > 0,
    pending: node.pending > 0,
    valid: store.isValid(node),
    validated: node.validated && !store.lackingNodes?.isAt(node),
    revealed: node.revealed,
    applies: node.isOffered,
    removed: node.removed,
    required: node.required,
    counter: counterOf(node, params['length'], store),
    params,
    options: optionsOf(node, catalogue),
    attributes: node.liveRules === undefined ? NO_ATTRIBUTES : attributesOf(node, params),
  };
  const snapshot: Snapshot = { facts, state: undefined };
  node.snapshot = snapshot;
  return snapshot;
}

/** What may be seen of the findings of a node. Of the form itself, everything. */
export function shownOf(
  { revealed, seen, verdicts, parent }: BaseNode,
  findings: readonly Finding[],
  { showsFirst }: FormStore,
): readonly Finding[] {
  const own = findings.length === 0 ? undefined : verdicts?.reveals;
  const isShown = (finding: Finding): boolean => {
    const from = own?.get(finding);
    return showsEarly(finding) || (from === undefined ? revealed : from <= seen);
  };
  const shown = findings.length === 0 || (revealed && !own) ? findings : findings.filter(isShown);
  if (!showsFirst || parent === undefined || shown.length < 2) return shown;
  const severity = gravest(shown);
  return [shown.find((finding) => finding.severity === severity)!];
}

function counterOf(node: BaseNode, length: Params | undefined, { catalogue }: FormStore): string | undefined {
  const max = length?.['max'];
  if (max === undefined) return undefined;
  const held = node.rows ?? node.raw;
  const used = typeof held === 'string' ? lengthOf(held, length?.['count']) : (held as readonly unknown[]).length;
  return formatText(catalogue?.['count'] ?? count, { label: '', locale: catalogue?.locale ?? 'en', used, max });
}

/** The tighter of two limits of a name; what is no limit, as it was given last. */
function tighter(name: string, before: unknown, now: unknown): unknown {
  if (before === undefined || now === undefined) return now ?? before;
  const isUpper = ['max', 'below'].includes(name);
  if (typeof before !== typeof now || !(isUpper || ['min', 'above'].includes(name))) return now;
  return (before as number) < (now as number) === isUpper ? before : now;
}

/** The params of rules, by rule; of several of a name, the tightest limits that hold now. */
function paramsOf({ part, liveRules }: BaseNode): Readonly<Record<string, Params>> {
  const params: Record<string, Params> = {};
  const add = ({ name, params: now }: Pick<Reporter, 'name' | 'params'>): void => {
    const before = params[name];
    params[name] =
      before === undefined || before === now
        ? now
        : Object.fromEntries(Object.keys({ ...before, ...now }).map((each) => [each, tighter(each, before[each], now[each])]));
  };
  for (const rule of part.ruleList) if (!rule.moving) add(rule);
  for (const { now } of liveRules ?? []) if (now) add(now);
  return params;
}

const NO_ATTRIBUTES: Readonly<Record<string, string>> = Object.freeze({});

function optionsOf({ part, liveRules }: BaseNode, catalogue: Catalogue | undefined): TextOptions | undefined {
  const options = liveRules?.find(({ now }) => now?.options)?.now!.options ?? part.options;
  return options && inWords(options, part.options, catalogue);
}

function attributesOf({ part, liveRules }: BaseNode, params: Readonly<Record<string, Params>>): Readonly<Record<string, string>> {
  const all = liveRules!.map(({ rule, now }) => (now && rule.attributes ? rule.attributes(params[now.name]!, part.traits) : NO_ATTRIBUTES));
  return Object.assign({}, ...all) as Readonly<Record<string, string>>;
}

/** A hint may have slots for params of rules. It is undefined until all of them are known. */
function hintOf(node: BaseNode, hint: Label, params: Readonly<Record<string, Params>>, catalogue: Catalogue | undefined): string {
  const text = inLanguage(hint, catalogue);
  if (!text.includes('{')) return text;
  const known = Object.assign({}, ...Object.values(params)) as Params;
  const rules = [...node.part.ruleList, ...(node.liveRules ?? []).map(({ rule }) => rule)];
  const filled = formatText(text, slotsOf(node.part, known, catalogue, rules), catalogue);
  const isMoving = node.liveRules?.some(({ rule, now }) => now !== rule) ?? false;
  return isMoving && /\{\w+\}/.test(filled) ? '' : filled;
}
