// What the modules of the library that are not part of a gate (bindings, drafts) need of one. It stands under a symbol on the
// gate itself, so that a gate that was wrapped or copied has it too.

import { DEV } from '#development';
import { assertUse } from '../schema/assertUse.ts';
import type { Finding } from '../schema/finding.ts';
import type { Placed } from './connection.ts';
import type { Handle } from './handle.ts';
import type { BaseNode } from './node.ts';
import type { FormStore } from './store.ts';
import type { Submission } from './submission.ts';

const INTERNALS: unique symbol = Symbol.for('upper-gate: internals');

/** What a binding does for the form element. */
export interface FormLink {
  /** What the line above the form holds now. */
  readonly lineMessages: readonly Pick<Finding, 'message' | 'severity'>[];
  /** Whether a field has something to say, but its control could not be reached when that mattered. */
  isLost(node: BaseNode): boolean;
  /** Follows the rows of lists on the page: a feature of those forms that have some. */
  followRows(): void;
  /** The user leaves a field; waits while the pointer is down. */
  leave(field: Handle): void;
  /** An invisible element with the word "required": for descriptions. */
  readonly requiredWord: { readonly id: string };
}

/** What the author draws of the form as a whole. */
interface OwnPlaces {
  /** The line above the form. */
  line: Placed | undefined;
  /** The summary, and whether it lists errors now. */
  summary: { readonly element: Placed; isListing(): boolean } | undefined;
}

/** What follows the rows of lists on a page. */
export interface RowNews {
  /** Whether a row has just moved: an element that is moved loses the focus. */
  readonly isMoving: boolean;
  undo(): void;
}

/** The internals of a gate. */
export interface GateInternals {
  readonly store: FormStore;
  /** What the ids of the form begin with: on the server the same as on the page. */
  idPrefix: string;
  /** The form element on the page, once a binding has wired it. */
  form: FormLink | undefined;
  /** Follows the rows of lists on a page; set by what shows some. */
  startRowNews?(form: Placed, gate: object): RowNews;
  readonly submission: Submission;
  readonly places: OwnPlaces;
  /** Calls back when the gate is disposed of. */
  readonly onDispose: Set<() => void>;
}

export interface WithInternals {
  readonly [INTERNALS]: GateInternals;
  /** See `Part`. */
  readonly __v_skip: true;
}

export const withInternals = (internals: GateInternals): WithInternals => ({ [INTERNALS]: internals, __v_skip: true });

/** The internals of a gate. @throws TypeError for what is no gate */
export function internalsOf(gate: object): GateInternals {
  const internals = (gate as Partial<WithInternals>)[INTERNALS];
  assertUse(internals !== undefined, DEV && 'This is not a gate. Make one with createGate().');
  return internals;
}
