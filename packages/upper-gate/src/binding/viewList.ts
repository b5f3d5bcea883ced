// The rows of a list as a component follows them, and what goes on its elements.

import type { AnyGate } from '../gate/gate.ts';
import type { FieldState } from '../gate/fieldState.ts';
import type { Handle, ListHandle, Row } from '../gate/handle.ts';
import { attach, describedBy, describeField, type FieldIds, idsOf } from '../showing/bundle.ts';
import { followRows } from '../showing/rowNews.ts';
import { sourceOf } from '../showing/variants.ts';
import { sameFacts, type View, viewOf } from './view.ts';

/** What a component shows of a list. */
export interface ListFacts extends Pick<FieldState, 'path' | 'label' | 'hint' | 'shown'> {
  /** The rows. The `key` of each stays the same as long as the row exists. */
  readonly rows: readonly Row[];
}

/** The rows of a list, as a component follows them: not what changes within the rows. */
export interface ListView extends View<ListFacts>, Pick<ListHandle, 'add' | 'remove' | 'move'> {
  readonly ids: FieldIds;
  /** What describes the button that adds a row, which takes the focus when the list is refused. */
  readonly described: string | undefined;
  /** Ties that button, as `Ties.attach` does. */
  readonly attach: (button: HTMLElement) => () => void;
  /** Describes the button by what is on the page. To be called after each drawing. */
  readonly describe: () => void;
}

/**
 * Follows a list. Its rows are announced, and the focus goes along with them.
 *
 * @param gate the gate of the form
 * @param list its path, or its handle
 * @returns the view
 * @throws TypeError if the form has no such list
 *
 * @example
 * const crew = viewList(gate, 'crew');
 * crew.subscribe(() => console.log(crew.now.rows.map(({ key }) => key)));
 */
export function viewList(gate: AnyGate, list: string | Handle): ListView {
  followRows(gate);
  const source = sourceOf(gate, list);
  const listOf = (): ListHandle => gate.list(source.handle);
  const facts = viewOf(
    source,
    (): ListFacts => {
      const { path, label, hint, shown } = source.handle;
      return { path, label, hint, shown, rows: listOf().rows };
    },
    sameFacts,
  );
  let tied: { readonly handle: Handle; readonly attach: ListView['attach'] } | undefined;
  return {
    subscribe: facts.subscribe,
    get now() {
      return facts.now;
    },
    get ids() {
      return idsOf(gate, facts.now.path);
    },
    get described() {
      const { path, hint, shown } = facts.now;
      return describedBy(gate, path, { hint, counter: undefined, shown });
    },
    get attach() {
      const { handle } = source;
      if (!tied || tied.handle !== handle) tied = { handle, attach: (button) => attach(gate, handle, button) };
      return tied.attach;
    },
    describe: () => describeField(gate, source.handle),
    add: (value, at) => listOf().add(value, at),
    remove: (index) => listOf().remove(index),
    move: (from, to) => listOf().move(from, to),
  };
}
