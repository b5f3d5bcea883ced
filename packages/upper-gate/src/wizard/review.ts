// What was entered, to be reviewed before it is sent: labels and values as people write them, as data.

import { BESIDE } from '../schema/finding.ts';
import type { AnyGate } from '../gate/gate.ts';
import { factsOf } from '../gate/fieldState.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import type { FormStore } from '../gate/store.ts';
import { no, yes } from '../messages/english.ts';
import { shown } from '../messages/formats.ts';
import { formatText, inLanguage } from '../messages/text.ts';
import { isField } from '../schema/field.ts';
import { NO_VALUE } from '../schema/noValue.ts';
import { nameIn } from '../schema/nameIn.ts';
import { isVariant } from '../schema/variant/variant.ts';

/** A field, group, list or row with its values, for review. */
export interface ReviewEntry {
  readonly path: string;
  /** The label in the language of the form; for a row, with its number. */
  readonly label: string;
  /** The value as people write it in the language of the form; `''` if there is none. For a variant, the choice. */
  readonly text?: string;
  /** The entries of a group, list, row or variant. */
  readonly entries?: readonly ReviewEntry[];
}

/** In place of a value that is nobody's business. */
const HIDDEN = '••••••';

function textOfValue(store: FormStore, node: BaseNode): string {
  const { part, raw, data } = node;
  const { catalogue } = store;
  const locale = catalogue?.locale ?? 'en';
  if (raw === undefined || raw === null || raw === '') return '';
  if (part.settings.private) return HIDDEN;
  const { options } = factsOf(store, node);
  const values = (Array.isArray(raw) ? raw : [raw]) as readonly unknown[];
  if (typeof raw === 'boolean') return formatText(catalogue?.[raw ? 'yes' : 'no'] ?? (raw ? yes : no), { label: '' }, catalogue);
  // A language has its own way to write numbers and moments.
  const { measures } = part.traits;
  const isWritten = measures === 'number' || measures === 'moment';
  if (isWritten && isField(part) && !part.spec.mapped && data !== NO_VALUE && data !== undefined)
    return Object.values(part.writeLimits?.({ data }, ['data'], locale) ?? [shown(locale, data)]).join();
  const texts = values.map((value) => {
    const option = options?.find((each) => each.value === value);
    if (option) return option.label;
    // A file.
    const { name } = (typeof value === 'object' && value !== null ? value : {}) as { readonly name?: unknown };
    return typeof name === 'string' ? name : String(value);
  });
  return new Intl.ListFormat(locale).format(texts);
}

/** What it is called: a row by its number, an entry of a dictionary by its key. */
function labelOf({ catalogue }: FormStore, { part, parent, key }: BaseNode): string {
  return (parent && nameIn(parent.part, key, catalogue)[0]) ?? inLanguage(part.label, catalogue);
}

function entryOf(store: FormStore, node: BaseNode): ReviewEntry {
  const { path, part, children } = node;
  const label = labelOf(store, node);
  if (!part.traits.hasParts || part.settings.private) return { path, label, text: textOfValue(store, node) };
  if (!isVariant(part)) return { path, label, entries: entriesOf(store, children) };
  const [chooser, ...cases] = children;
  return { path, label, text: textOfValue(store, chooser!), entries: entriesOf(store, cases) };
}

const entriesOf = (store: FormStore, nodes: readonly BaseNode[]): readonly ReviewEntry[] =>
  nodes.flatMap((node) => (!node.ownApplies ? [] : node.key === BESIDE ? entriesOf(store, node.children) : [entryOf(store, node)]));

/** The last review of each form, of each choice of paths: the same until something changes. */
const reviews = new WeakMap<object, Map<string, Review>>();

interface Review {
  readonly state: unknown;
  readonly entries: readonly ReviewEntry[];
}

/**
 * Returns what was entered, for a page on which people review it before they send it: label and written value of each field
 * that applies, in the language of the form. `private` values are hidden. It is data for any framework to draw: the same
 * object until something changes.
 *
 * @param gate the gate of the form
 * @param paths default: the whole form
 * @returns the fields with their labels and texts
 * @throws TypeError for a path that the form does not have
 *
 * @example
 * reviewOf(gate, ['arrival', 'crew']);
 * // [{ path: 'arrival', label: 'Arrival', text: 'May 1, 2027' }, { path: 'crew', label: 'Crew', entries: [...] }]
 */
export function reviewOf<G extends AnyGate>(gate: G, paths?: readonly Parameters<G['field']>[0][]): readonly ReviewEntry[] {
  const { store } = internalsOf(gate);
  const { state } = gate.root;
  const key = String(paths);
  const known = reviews.get(gate) ?? new Map<string, Review>();
  reviews.set(gate, known);
  const before = known.get(key);
  if (before?.state === state) return before.entries;
  const entries = paths
    ? paths.map((path) => store.find(gate.field(path).path)!).flatMap((node) => (node.applies ? [entryOf(store, node)] : []))
    : entriesOf(store, store.root.children);
  known.set(key, { state, entries });
  return entries;
}
