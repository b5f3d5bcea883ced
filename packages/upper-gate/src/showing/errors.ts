// The errors that the person may see, as a summary lists them.

import { blocks } from '../schema/severity.ts';
import type { AnyGate } from '../gate/createGate.ts';
import { shownOf } from '../gate/fieldState.ts';
import { focusNode, inDocumentOrder } from '../gate/focus.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import { summary } from '../messages/en.ts';
import { isSeen } from './page.ts';
import { formatText, inLanguage, type Catalogue } from '../messages/text.ts';
import type { Finding } from '../schema/finding.ts';

/** An error, and the way to its control. */
export interface ShownError {
  /** Unique in the list: a field may have several errors. */
  readonly key: string;
  readonly path: string;
  /** What the field is called. */
  readonly label: string;
  readonly message: string;
  /** The message, after the rows around the field: `'Crew 2: Name is required'`. */
  readonly text: string;
  /** The connected control (or other element); undefined without one. */
  readonly element: Element | undefined;
  /** Moves the focus to the field. @returns whether it could be moved */
  focus(): boolean;
}

/** All errors that are shown, in document order; those without an element come last, in schema order. */
function shownErrors(gate: AnyGate): readonly ShownError[] {
  const { store } = internalsOf(gate);
  const { root, catalogue } = store;
  const found: ShownError[] = [];
  const collect = (node: BaseNode): void => {
    if (node.errors === 0) return;
    node.children.forEach(collect);
    if (!node.revealed) return;
    const element = [...(node.connections ?? [])].find((each) => each.element)?.element as Element | undefined;
    for (const [index, { message, path }] of shownOf(node, node.held?.errors ?? [], store).entries()) {
      const text = [...rowsAbove(node, catalogue), message].join(': ');
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
  return [...inDocumentOrder(found.filter(({ element }) => element)), ...found.filter(({ element }) => !element)];
}

/** The rows around a field, counted from 1. */
function rowsAbove(node: BaseNode, catalogue: Catalogue | undefined): readonly string[] {
  const { parent } = node;
  if (!parent) return [];
  const above = rowsAbove(parent, catalogue);
  return parent.rows ? [...above, `${inLanguage(parent.part.label, catalogue)} ${Number(node.key) + 1}`] : above;
}

/** What stands above the list of all errors. */
export const summaryHeading = (gate: AnyGate, count: number): string =>
  formatText(internalsOf(gate).store.catalogue?.['summary'] ?? summary, { label: '', count });

/** Whether the person can be brought to an element: it is on the page, seen, and not disabled. */
const isReachable = (element: Element | undefined): boolean =>
  element !== undefined && element.isConnected && isSeen(element) && !element.matches(':disabled');

/** What is left of the last refusal. */
export interface OpenErrors {
  /** What is still wrong, in document order; nothing before a refusal, and once all is corrected. */
  readonly errors: readonly ShownError[];
  /** What the line above the form says of those whose controls cannot take the focus. */
  readonly unreachable: readonly LineMessage[];
}

const NOTHING: OpenErrors = { errors: [], unreachable: [] };

/**
 * Follows the refusals of a gate.
 *
 * @returns to be called after each change of the gate: what is left; the same object while that stays so
 */
export function followRefusals(gate: AnyGate): () => OpenErrors {
  let left = NOTHING;
  let lost = new Set<string>();
  return () => {
    const refused = gate.state.status === 'refused';
    if (!refused && left === NOTHING) return left;
    const errors = shownErrors(gate);
    // Looked up once: it takes the layout of the page. Before there is script, nothing is known of it.
    if (refused && internalsOf(gate).form)
      lost = new Set(errors.filter(({ path, element }) => path !== '' && !isReachable(element)).map(({ path }) => path));
    const same = errors.length === left.errors.length && errors.every((error, i) => isSame(error, left.errors[i]!));
    const strays = errors.filter(({ path }) => lost.has(path));
    if (!same || strays.length !== left.unreachable.length)
      left = errors.length === 0 ? NOTHING : { errors, unreachable: strays.map(({ text }) => ({ message: text, severity: 'error' })) };
    return left;
  };
}

/** What the line above the form tells: what is said of the whole, and errors out of reach; but nothing that a summary lists. */
export function lineMessages(gate: AnyGate, { errors, unreachable: strays }: OpenErrors, hasSummary: boolean): readonly LineMessage[] {
  const { shown } = gate.root;
  if (hasSummary) return errors.length > 0 ? shown.filter((finding) => !blocks(finding)) : shown;
  return [...shown, ...strays];
}

type LineMessage = Pick<Finding, 'message' | 'severity'>;

const isSame = (a: ShownError, b: ShownError): boolean => a.path === b.path && a.text === b.text && a.element === b.element;
