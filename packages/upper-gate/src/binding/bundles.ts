// What frameworks with signals give a component of a field, a list, the errors of a form: objects whose properties are read again wherever
// they were read. Each framework says how attributes and ties are put on an element.

import type { DataSoFar, FieldState } from '../gate/fieldState.ts';
import type { ListHandle, Row } from '../gate/handle.ts';
import type { Node, RAW } from '../schema/node.ts';
import type {
  ComponentProps,
  ControlAttributes,
  ControlValue,
  FieldsetAttributes,
  LimitAttributes,
  OptionAttributes,
  Parts,
} from '../showing/bundle.ts';
import { enter } from '../showing/entering.ts';
import type { ShownError } from '../showing/errors.ts';
import type { LineMessage } from '../showing/plan/line.ts';
import type { FieldView, Ties } from './viewField.ts';
import type { ListView } from './viewList.ts';
import type { SummaryView } from './viewSummary.ts';

/** The state of a field, typed by its part. */
export type StateOf<N extends Node> = FieldState<DataSoFar<N>, N[typeof RAW]>;

/** The types of what a framework puts on elements. */
interface FieldPuts {
  readonly input: unknown;
  readonly component: unknown;
  readonly option: unknown;
}

/** How a framework puts attributes and ties on the elements of a field. */
export interface PutField<B extends FieldPuts> {
  /** For an input, select or textarea. */
  readonly input: (attributes: ControlAttributes & ControlValue & LimitAttributes, shows: ControlValue, ties: Ties) => B['input'];
  /** For a component that calls back with values. */
  readonly component: (props: ComponentProps, ties: Ties) => B['component'];
  /** For the radio or checkbox of one option. */
  readonly option: (attributes: OptionAttributes, ties: Ties) => B['option'];
  /** Whether the component disables the field. */
  readonly disabled?: () => boolean | undefined;
  /** Whether the options of a select say that they are chosen. */
  readonly selects: boolean;
}

/** One field: its state, and attributes for each of its elements. Its properties are reactive: don't destructure it. */
export interface FieldBundles<N extends Node = Node, B extends FieldPuts = FieldPuts> {
  /** The state of the field: its `label`, `hint`, `shown` messages, `counter`, ... */
  readonly state: StateOf<N>;
  /** What the control holds. */
  raw: unknown;
  readonly label: { readonly id: string; readonly for: string };
  /** For an input, select or textarea. */
  readonly input: B['input'];
  /** For a component that calls back with values. */
  readonly component: B['component'];
  /** For a field with several controls: the attributes for the radio or checkbox of one option. */
  readonly option: (value: string) => B['option'];
  /** Attributes for an `<option>` of a select. */
  readonly selectOption: (value: string) => { readonly value: string; readonly selected?: boolean };
  /** Attributes for the fieldset around radios and checkboxes. */
  readonly fieldset: FieldsetAttributes;
  readonly hint: { readonly id: string };
  readonly counter: { readonly id: string };
  /** Attributes for the element that holds the messages, one for each of `state.shown`. */
  readonly messages: { readonly id: string; readonly 'data-gate-messages': string };
}

/**
 * Makes the object of a field.
 *
 * @param read reads its view where the framework tracks that
 * @param put puts attributes and ties on elements
 * @returns the object
 */
export function fieldBundles<B extends FieldPuts>(read: () => FieldView, put: PutField<B>): FieldBundles<Node, B> {
  const parts = (): Parts => read().parts(put.disabled?.());
  return {
    get state() {
      return read().now as FieldState<never, never>;
    },
    get raw() {
      return read().now.raw;
    },
    set raw(raw) {
      enter(read().handle, raw);
    },
    get label() {
      return parts().label;
    },
    get input() {
      const { input, shows } = parts();
      return put.input(input, shows, read().ties);
    },
    get component() {
      return put.component(parts().component, read().ties);
    },
    option: (value) => put.option(parts().option(value), read().tiesOf(value)),
    selectOption: (value) => (put.selects ? { value, selected: parts().option(value).checked } : { value }),
    get fieldset() {
      return parts().fieldset;
    },
    get hint() {
      return parts().hint;
    },
    get counter() {
      return parts().counter;
    },
    get messages() {
      return parts().messages;
    },
  };
}

/** The rows of a list, and functions that change them. Its properties are reactive: don't destructure it. */
export interface ListBundles<I extends Node = Node, B = unknown> extends Pick<ListHandle<I>, 'add' | 'remove' | 'move'> {
  /** The rows. Use the `key` of each as its key: it stays the same as long as the row exists. */
  readonly rows: readonly Row<I>[];
  readonly label: string;
  /** The findings of the list as a whole, such as too few rows. */
  readonly shown: FieldState['shown'];
  /** Attributes for the element that holds these messages, one for each of `shown`. */
  readonly messages: { readonly id: string; readonly 'data-gate-messages': string };
  /** Attributes for the button that adds a row, which takes the focus when the list is refused. */
  readonly button: B;
  /** The hint beside its label. */
  readonly hintText: string | undefined;
  /** Attributes for the element with the hint, which describes the button. */
  readonly hint: { readonly id: string };
}

/** The attributes of the button that adds a row. */
export interface AdderAttributes {
  readonly type: 'button';
  readonly 'aria-describedby': string | undefined;
}

/**
 * Makes the object of a list.
 *
 * @param read reads its view where the framework tracks that
 * @param put puts attributes and what ties it on the button that adds a row
 * @returns the object
 */
export function listBundles<B>(
  read: () => ListView,
  put: (attributes: AdderAttributes, attach: ListView['attach']) => B,
): ListBundles<Node, B> {
  return {
    get rows() {
      return read().now.rows;
    },
    get label() {
      return read().now.label;
    },
    get shown() {
      return read().now.shown;
    },
    get messages() {
      const { ids, now } = read();
      return { id: ids.messages, 'data-gate-messages': now.path };
    },
    get button() {
      const { described, attach } = read();
      return put({ type: 'button', 'aria-describedby': described }, attach);
    },
    get hintText() {
      return read().now.hint;
    },
    get hint() {
      return { id: read().ids.hint };
    },
    add: (value, at) => read().add(value, at),
    remove: (index) => read().remove(index),
    move: (from, to) => read().move(from, to),
  };
}

/** The types of what a framework puts on the elements of a summary. */
interface SummaryPuts {
  readonly place: unknown;
  readonly link: unknown;
  readonly line: unknown;
}

/** How a framework puts attributes and ties on the elements of a summary. */
export interface PutSummary<B extends SummaryPuts> {
  /** For the element around the summary. */
  readonly place: (attributes: SummaryView['place'], attach: SummaryView['attachPlace']) => B['place'];
  /** For the link of an error. */
  readonly link: (href: string, follow: (event: Pick<Event, 'preventDefault'>) => void) => B['link'];
  /** For the line above the form. */
  readonly line: (attributes: SummaryView['line'], attach: SummaryView['attachLine']) => B['line'];
}

/** A summary: draw it if there are `errors`. Its properties are reactive: don't destructure it. */
export interface SummaryBundles<B extends SummaryPuts = SummaryPuts> {
  /** All errors after a refusal, in document order, until they are corrected. */
  readonly errors: readonly ShownError[];
  /** Attributes for the element around the summary. It takes the focus if the option `focus` of the gate is `'summary'`. */
  readonly place: B['place'];
  /** Attributes for the heading, whose text is `text`. */
  readonly heading: { readonly id: string };
  /** The text of the heading. */
  readonly text: string;
  /** Attributes for the link of an error, whose text is `error.text`. It focuses the control. */
  readonly link: (error: ShownError) => B['link'];
  /** Attributes for the line above the form, where you want it elsewhere than at its start. It shows findings of the form itself. */
  readonly line: B['line'];
  /** The messages of that line. */
  readonly lineMessages: readonly LineMessage[];
}

/**
 * Makes the object of a summary.
 *
 * @param read reads its view where the framework tracks that
 * @param put puts attributes and ties on elements
 * @returns the object
 */
export function summaryBundles<B extends SummaryPuts>(read: () => SummaryView, put: PutSummary<B>): SummaryBundles<B> {
  return {
    get errors() {
      return read().now.errors;
    },
    get place() {
      const { place, attachPlace } = read();
      return put.place(place, attachPlace);
    },
    get heading() {
      return read().heading;
    },
    get text() {
      return read().now.text;
    },
    link: (error) => put.link(read().hrefOf(error), linkTo(error)),
    get line() {
      const { line, attachLine } = read();
      return put.line(line, attachLine);
    },
    get lineMessages() {
      return read().now.lineMessages;
    },
  };
}

/**
 * What a link to an error does.
 *
 * @param error the error
 * @returns focuses its control, in place of following the address
 */
export const linkTo =
  (error: ShownError) =>
  (event: Pick<Event, 'preventDefault'>): void => {
    event.preventDefault();
    error.focus();
  };
