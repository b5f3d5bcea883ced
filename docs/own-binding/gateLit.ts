// A binding for lit-html, as an example of one for any library that draws: what draws again when something has changed, attributes for each
// element of a field, and what ties an element to its field as long as it is on the page.

import { html, noChange, type ElementPart } from 'lit-html';
import { AsyncDirective, directive, type DirectiveResult } from 'lit-html/async-directive.js';
import { repeat } from 'lit-html/directives/repeat.js';
import type { AnyGate, FieldState, Handle, Row } from 'upper-gate';
import {
  attach,
  describedBy,
  describeField,
  drawSummary,
  followErrors,
  followRows,
  idPrefixOf,
  idsOf,
  leave,
  partsOf,
  rawIn,
  sameSlice,
  sourceOf,
  summaryHeading,
  toggled,
  wireForm,
  type FieldSource,
  type ShownError,
} from 'upper-gate/binding';

type Undo = () => void;
/** What an element is tied with: an element directive, `<input ${field.input}>`. */
type Put = DirectiveResult;

// What draws again.

class FollowDirective extends AsyncDirective {
  #source: FieldSource | undefined;
  #handle: Handle | undefined;
  #undo: Undo | undefined;
  #pick!: () => unknown;
  #draw!: () => unknown;
  #picked: unknown;

  override render(source: FieldSource, pick: () => unknown, draw: () => unknown): unknown {
    this.#pick = pick;
    this.#draw = draw;
    this.#picked = pick();
    // The same place may be drawn for another field: a row may have moved.
    if (source.handle !== this.#handle) {
      this.#source = source;
      this.#handle = source.handle;
      this.#start();
    }
    return draw();
  }
  override disconnected(): void {
    this.#undo?.();
  }
  override reconnected(): void {
    this.#start();
    this.setValue(this.#draw());
  }
  #start(): void {
    this.#undo?.();
    this.#undo = this.#source!.subscribe(() => {
      const picked = this.#pick();
      if (sameSlice(picked, this.#picked)) return;
      this.#picked = picked;
      this.setValue(this.#draw());
    });
  }
}
const follow = directive(FollowDirective);

/** Draws again when what is picked from the form has become another. */
export const followForm = (gate: AnyGate, pick: () => unknown, draw: () => unknown): unknown =>
  follow({ handle: gate.root, subscribe: (listener) => gate.subscribe(listener) }, pick, draw);

// Attributes of an element.

/** Writes attributes; what a control holds, and what is called back, are properties. */
function write(element: Element, now: object, before: object): void {
  for (const name of Object.keys({ ...before, ...now })) {
    const [value, last] = [now, before].map((attributes) => (attributes as Readonly<Record<string, string | boolean | undefined>>)[name]);
    const isProperty = name === 'value' || name === 'checked' || name.startsWith('on');
    // (The options of a select are drawn after it.)
    if (name === 'value' && element.localName === 'select') queueMicrotask(() => ((element as HTMLSelectElement).value = String(value)));
    else if (isProperty) {
      if (element[name as never] !== value) Object.assign(element, { [name]: value });
    } else if (value === last) continue;
    else if (value === undefined || (value === false && !name.startsWith('aria-'))) element.removeAttribute(name);
    else element.setAttribute(name, value === true && !name.startsWith('aria-') ? '' : String(value));
  }
}

class PutDirective extends AsyncDirective {
  #before: object = {};
  #key: object | undefined;
  #tie: (() => Undo) | undefined;
  #undo: Undo | undefined;

  /** @param key what the element is tied to, where `tie` ties it */
  override render(_attributes: object, _key?: object, _tie?: (element: HTMLElement) => Undo): unknown {
    return noChange;
  }
  override update({ element }: ElementPart, [attributes, key, tie]: Parameters<this['render']>): unknown {
    write(element, attributes, this.#before);
    this.#before = attributes;
    if (key !== this.#key) {
      this.#key = key;
      this.#tie = tie && (() => tie(element as HTMLElement));
      this.#start();
    }
    return noChange;
  }
  override disconnected(): void {
    this.#undo?.();
    this.#undo = undefined;
  }
  override reconnected(): void {
    this.#start();
  }
  #start(): void {
    this.disconnected();
    // It is only on the page by then.
    queueMicrotask(() => this.isConnected && (this.#undo ??= this.#tie?.()));
  }
}
const put = directive(PutDirective);

/** Once a field is drawn, it is known which of its parts are there. (Behind what else is done then.) */
const describeLater = (gate: AnyGate, handle: Handle): void => queueMicrotask(() => queueMicrotask(() => describeField(gate, handle)));

// What the author of a form calls.

/** Ties a form to its gate: `<form ${form(gate)}>`. */
export const form = (gate: AnyGate): Put => put({}, gate, (element) => wireForm(element as HTMLFormElement, gate));

/** An element for each message: a block, so that screen readers do not run two of them together. */
export const messagesOf = (shown: FieldState['shown']): unknown =>
  shown.map(({ message, severity }) => html`<div data-gate-severity=${severity}>${message}</div>`);

/** The state of a field, and the directive for each of its elements. */
export interface LitField extends Readonly<Record<'label' | 'input' | 'fieldset' | 'hint' | 'counter' | 'messages', Put>> {
  readonly state: FieldState;
  readonly option: (value: string) => Put;
}

/** Draws a field, and again when it changes. @param of its path, or its handle: in a row, `row.field('name')` */
export function field(gate: AnyGate, of: string | Handle, draw: (field: LitField) => unknown): unknown {
  const source = sourceOf(gate, of);
  return follow(
    source,
    () => source.handle.state,
    () => draw(fieldOf(gate, source.handle)),
  );
}

function fieldOf(gate: AnyGate, handle: Handle): LitField {
  const { state } = handle;
  const { label, input, shows, option, fieldset, hint, counter, messages } = partsOf(gate, handle, state, undefined);
  const tie = (element: HTMLElement): Undo => attach(gate, handle, element);
  const onblur = (event: FocusEvent): void => leave(gate, handle, event);
  const changed = (event: Event): void => handle.set(rawIn(handle, event));
  describeLater(gate, handle);
  return {
    state,
    label: put(label),
    input: put({ ...input, ...shows, oninput: changed, onchange: changed, onblur }, handle, tie),
    option(value) {
      const attributes = option(value);
      const choose = (): void => handle.set(toggled(handle, value, !attributes.checked));
      return put({ ...attributes, onchange: choose, onblur }, handle, tie);
    },
    fieldset: put(fieldset),
    hint: put(hint),
    counter: put(counter),
    messages: put(messages),
  };
}

/** The rows of a list. */
export interface LitList extends Pick<ReturnType<AnyGate['list']>, 'add' | 'remove' | 'move'> {
  readonly label: string;
  readonly hintText: string | undefined;
  readonly shown: FieldState['shown'];
  readonly length: number;
  /** Draws each row. */
  readonly rows: (draw: (row: Row, index: number) => unknown) => unknown;
  /** For the button that adds a row, which takes the focus when the list is refused. */
  readonly button: Put;
  readonly hint: Put;
  readonly messages: Put;
}

/** Draws a list, and again when rows come, go or move. @param of its path, or its handle */
export function list(gate: AnyGate, of: string | Handle, draw: (list: LitList) => unknown): unknown {
  followRows(gate);
  const source = sourceOf(gate, of);
  const pick = (): unknown => [
    source.handle.path,
    source.handle.label,
    source.handle.hint,
    ...source.handle.shown,
    '',
    ...gate.list(source.handle).rows,
  ];
  return follow(source, pick, () => draw(listOf(gate, source.handle)));
}

function listOf(gate: AnyGate, handle: Handle): LitList {
  const { path, label, hint, shown } = handle;
  const ids = idsOf(gate, path);
  const list = gate.list(handle);
  const { rows, length } = list;
  const described = describedBy(gate, path, { hint, counter: undefined, shown });
  describeLater(gate, handle);
  return {
    label,
    hintText: hint,
    shown,
    length,
    add: (value, at) => list.add(value, at),
    remove: (index) => list.remove(index),
    move: (from, to) => list.move(from, to),
    rows: (drawRow) => repeat(rows, ({ key }) => key, drawRow),
    button: put({ type: 'button', 'aria-describedby': described, onclick: () => list.add() }, handle, (element) =>
      attach(gate, handle, element),
    ),
    hint: put({ id: ids.hint }),
    messages: put({ id: ids.messages, 'data-gate-messages': path }),
  };
}

/** The errors of the last refusal. */
export interface LitSummary {
  readonly errors: readonly ShownError[];
  readonly text: string;
  readonly place: Put;
  readonly heading: Put;
  readonly link: (error: ShownError) => Put;
}

const followed = new WeakMap<AnyGate, () => readonly ShownError[]>();

/** Draws a summary of the errors after a refusal, and again as they are corrected. */
export function summary(gate: AnyGate, draw: (summary: LitSummary) => unknown): unknown {
  const errorsOf = followed.get(gate) ?? followErrors(gate);
  followed.set(gate, errorsOf);
  const id = `${idPrefixOf(gate)}-heading`;
  const textNow = (): string => summaryHeading(gate, errorsOf());
  const place = (hidden: boolean): Put =>
    put({ role: 'group', tabindex: -1, 'aria-labelledby': id, hidden }, gate, (element) => drawSummary(gate, element, errorsOf));
  const link = (error: ShownError): Put =>
    put({
      href: `#${error.element?.id ?? ''}`,
      onclick(event: Event) {
        event.preventDefault();
        error.focus();
      },
    });
  return followForm(
    gate,
    () => [errorsOf(), textNow()],
    () => draw({ errors: errorsOf(), text: textNow(), place: place(errorsOf().length === 0), heading: put({ id }), link }),
  );
}
