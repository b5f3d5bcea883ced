// The errors that the user may see, as a summary lists them.

import { blocks } from '../schema/severity.ts';
import type { AnyGate } from '../gate/gate.ts';
import { shownOf } from '../gate/fieldState.ts';
import { canBeShown, focusNode, inDocumentOrder } from './focusOrder.ts';
import { internalsOf } from '../gate/internals.ts';
import type { FormStore } from '../gate/store.ts';
import type { BaseNode } from '../gate/node.ts';
import { summary } from '../messages/english.ts';
import { isWithinReach } from './page.ts';
import { awayFromField, nameIn } from './plan/names.ts';
import { formatText, inLanguage, type Catalogue } from '../messages/text.ts';
import type { Finding } from '../schema/finding.ts';

/** An error, and the way to its control. */
export interface ShownError {
  /** Unique in the list: a field may have several errors. */
  readonly key: string;
  readonly path: string;
  /** The label of the field. */
  readonly label: string;
  readonly message: string;
  /** The message, after the rows around the field: `'Crew 2: Name is required'`. */
  readonly text: string;
  /** The connected control (or other element); undefined without one. */
  readonly element: Element | undefined;
  /**
   * Moves the focus to the field.
   *
   * @returns whether it could be moved
   */
  focus(): boolean;
}

/** All errors that are shown, in schema order. */
function collectErrors(gate: AnyGate): readonly ShownError[] {
  const { store } = internalsOf(gate);
  const { root, catalogue } = store;
  const found: ShownError[] = [];
  const collect = (node: BaseNode): void => {
    if (node.errors === 0) return;
    node.children.forEach(collect);
    if (!node.revealed) return;
    const element = [...(node.connections ?? [])].find((each) => each.element)?.element as Element | undefined;
    for (const [index, { message, path }] of shownOf(node, node.verdicts?.errors ?? [], store).entries()) {
      const text = awayFromField(namesAbove(node, catalogue), message);
      found.push({
        key: `${path}:${index}`,
        path,
        label: inLanguage(node.part.label, catalogue),
        message,
        text,
        element,
        focus: () => focusNode(node),
      });
    }
  };
  collect(root);
  return found;
}

/** All errors that are shown, in document order; those without an element come last, in schema order. */
function shownErrors(gate: AnyGate): readonly ShownError[] {
  const found = collectErrors(gate);
  return [...inDocumentOrder(found.filter(({ element }) => element)), ...found.filter(({ element }) => !element)];
}

/** How many errors are shown. */
export const countErrors = (gate: AnyGate): number => collectErrors(gate).length;

/** The names of the rows and entries around a field, the outermost first. */
const namesAbove = ({ parent, key }: BaseNode, catalogue: Catalogue | undefined): readonly string[] =>
  parent ? [...namesAbove(parent, catalogue), ...nameIn(parent.part, key, catalogue)] : [];

/**
 * Returns the heading of the list of all errors.
 *
 * @param gate the gate of the form
 * @param count how many errors there are
 * @returns the text, in the language of the form
 */
export const summaryHeading = (gate: AnyGate, count: number): string =>
  formatText(internalsOf(gate).store.catalogue?.['summary'] ?? summary, { label: '', count });

/** Whether the user can be brought to an element: it is on the page, seen or within reach, and not disabled. */
const isReachable = (element: Element | undefined): boolean =>
  element !== undefined && element.isConnected && isWithinReach(element) && !element.matches(':disabled');

/** What a summary lists, and what the line above the form shows beside the findings of the form itself. */
export interface OpenErrors {
  /** The errors of the last refusal that are still there, in document order. */
  readonly errors: readonly ShownError[];
  /** Findings of fields without a control, or whose control cannot take the focus. */
  readonly unreachable: readonly LineMessage[];
}

const NOTHING: OpenErrors = { errors: [], unreachable: [] };

/**
 * Follows the refusals of a gate, and findings of fields without a control.
 *
 * @param gate the gate of the form
 * @returns to be called after each change of the gate: what is left; the same object while that stays so
 */
export function followRefusals(gate: AnyGate): () => OpenErrors {
  const { store } = internalsOf(gate);
  let left = NOTHING;
  let lost = new Set<string>();
  const unbound = unboundNodes(gate);
  return () => {
    const refused = gate.state.status === 'refused';
    if (!refused && left === NOTHING && unbound.size === 0) return left;
    const isWired = internalsOf(gate).form !== undefined;
    const errors = refused || left.errors.length > 0 ? shownErrors(gate) : NOTHING.errors;
    // Looked up once: it takes the layout of the page. Before there is script, nothing is known of it.
    if (refused && isWired)
      lost = new Set(
        errors.filter(({ path, element }) => path !== '' && !isReachable(element) && !canBeShown(store.find(path))).map(({ path }) => path),
      );
    const strays: LineMessage[] = errors.filter(({ path }) => lost.has(path)).map(({ text }) => ({ message: text, severity: 'error' }));
    // What a component will draw is not there before the page is.
    for (const node of isWired ? unbound : [])
      if (!isBound(node) && !lost.has(node.path))
        for (const { message, severity } of shownOf(node, node.findings, store))
          // A notice of a field that is on no page, such as an earlier step, is none for this one.
          if (severity !== 'notice') strays.push({ message: awayFromField(namesAbove(node, store.catalogue), message), severity });
    const same =
      sameListBy(errors, left.errors, sameError) &&
      sameListBy(strays, left.unreachable, (a, b) => a.message === b.message && a.severity === b.severity);
    if (!same) left = errors.length + strays.length === 0 ? NOTHING : { errors, unreachable: strays };
    return left;
  };
}

const sameListBy = <T>(a: readonly T[], b: readonly T[], sameItem: (a: T, b: T) => boolean): boolean =>
  a.length === b.length && a.every((item, i) => sameItem(item, b[i]!));

/** Whether a node has a control or a place, or somebody else listens to it. */
const isBound = ({ connections, listeners }: BaseNode): boolean => (connections?.size ?? 0) > 0 || (listeners?.size ?? 0) > 0;

/** The fields that had something to say as they had no control, and no place. One list for each gate. */
function unboundNodes(gate: AnyGate): ReadonlySet<BaseNode> {
  const internals = internalsOf(gate);
  const { store } = internals;
  return (internals.unbound ??= collectUnbound(store));
}

function collectUnbound(store: FormStore): Set<BaseNode> {
  const unbound = new Set<BaseNode>();
  const note = (node: BaseNode): void => {
    const speaks = node.parent !== undefined && node.applies && !node.removed && shownOf(node, node.findings, store).length > 0;
    if (speaks && !isBound(node)) unbound.add(node);
    else unbound.delete(node);
  };
  store.root.forEach(note);
  store.observe(({ nodes }) => nodes.forEach(note));
  return unbound;
}

/**
 * Joins findings into one text, as they are read out.
 *
 * @param findings the findings
 * @returns one text
 */
export const textOf = (findings: readonly Pick<Finding, 'message'>[]): string => findings.map(({ message }) => message).join(' ');

/**
 * What the line above the form shows: findings of the form itself and of unreachable fields, without those that a summary lists.
 *
 * @param gate the gate of the form
 * @param errors what `followRefusals` gives
 * @param hasSummary whether the page has a summary
 * @returns the messages, each with a key
 */
export function lineMessages(gate: AnyGate, { errors, unreachable }: OpenErrors, hasSummary: boolean): readonly LineMessage[] {
  const { shown } = gate.root;
  const all = unreachable.length > 0 ? [...shown, ...unreachable] : shown;
  return hasSummary && errors.length > 0 ? all.filter((finding) => !blocks(finding)) : all;
}

type LineMessage = Pick<Finding, 'message' | 'severity'>;

const sameError = (a: ShownError, b: ShownError): boolean => a.path === b.path && a.text === b.text && a.element === b.element;
