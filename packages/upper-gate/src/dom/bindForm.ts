// Wiring a plain form to a gate, by the names of its controls.

import { devAssert, explain } from '#development';
import { startHookWarnings } from '#hookWarnings';
import type { AnyGate, Gate } from '../gate/gate.ts';
import type { Handle } from '../gate/handle.ts';
import { takeRefusal } from '../gate/takeRefusal.ts';
import type { Node } from '../schema/node.ts';
import { AttributeWriter, idOf } from '../showing/attributes.ts';
import { connect, offerMarkup } from '../showing/connect.ts';
import { focusIn } from '../showing/focus.ts';
import { undefinedElements } from '../showing/page.ts';
import { isEmptyRaw } from '../showing/status.ts';
import { followPath } from '../showing/variants.ts';
import { startWiring, type Wiring } from '../showing/wiring.ts';
import { setText, showIn } from '../showing/messages.ts';
import { formOf, isControl, isFilled, isStated, markupValue, nameOf, readControls, type Control } from '../showing/controls.ts';
import { BoundField } from './field.ts';
import { Hooks } from './hooks.ts';
import type { BoundOptions, OptionsFeature } from './options.ts';
import type { BoundTemplates, RowsFeature } from './rows.ts';
import type { BoundSummary, SummaryFeature } from './summary.ts';

/** Features that only some forms need. A page loads those that it names. */
export interface BindOptions {
  /** Rows from templates: `templateRows`. */
  readonly rows?: RowsFeature;
  /** Options that depend on other fields: `movingOptions`. */
  readonly options?: OptionsFeature;
  /** The summary of all errors: `errorSummary`, or `errorSummary(draw)`. */
  readonly summary?: SummaryFeature;
}

/**
 * Connects a form to a gate: each control to the field of its `name`, including controls that come later. Your markup stays as
 * it is, except for ARIA attributes, `data-gate-state`, and a place for messages if you give none
 * (`data-gate-messages="field"`).
 *
 * @param form its controls' names are paths of the gate's schema; others are left alone
 * @param gate the live controller
 * @param options the features of the page: `rows`, `options`, `summary`
 * @returns undoes everything
 *
 * @example
 * const unbind = bindForm(document.querySelector('form')!, createGate(passage, { submit: send }));
 * bindForm(form, gate, { rows: templateRows, summary: errorSummary });
 */
export function bindForm<N extends Node>(form: HTMLFormElement, gate: Gate<N>, options: BindOptions = {}): () => void {
  devAssert(
    () =>
      bound.has(form) &&
      explain('form-bound-twice', 'This form is already bound. Call the function that the first bindForm() returned, then bind it again.'),
  );
  const binding = new Binding(form, gate, options);
  bound.add(form);
  return () => {
    binding.undo();
    bound.delete(form);
  };
}

const bound = new WeakSet<HTMLFormElement>();
/** Marks a form that a server has drawn again, see `redrawForm`: with its findings, as JSON. */
const POSTED = 'data-gate-posted';

type BoundGate = AnyGate & Pick<Gate<Node>, 'on'>;

/** Adding or removing an element with one of these attributes changes the binding. */
const RELEVANT =
  'input, select, textarea, template, [name], [data-gate-messages], [data-gate-applies], [data-gate-label], [data-gate-hint], [data-gate-count]';

/** What the binding does to an element that is no control, and for which field. */
interface BoundPart {
  readonly handle: Handle;
  readonly undo: () => void;
}
const PARTS = ['hint', 'count', 'messages', 'label', 'applies'] as const;

class Binding {
  readonly #form: HTMLFormElement;
  readonly #gate: BoundGate;
  readonly #attributes = new AttributeWriter();
  readonly #wiring: Wiring;
  readonly #summary: BoundSummary | undefined;
  /** The fields that have controls now. */
  readonly #fields = new Map<Handle, BoundField>();
  readonly #fieldByControl = new WeakMap<Control, BoundField>();
  /** Places of what has no control (groups, lists, fields that the author connects), and parts that come and go: which field they follow. */
  readonly #parts = {
    hint: new Map<HTMLElement, BoundPart>(),
    count: new Map<HTMLElement, BoundPart>(),
    messages: new Map<HTMLElement, BoundPart>(),
    label: new Map<HTMLElement, BoundPart>(),
    applies: new Map<HTMLElement, BoundPart>(),
  };
  readonly #rows: BoundTemplates | undefined;
  readonly #options: BoundOptions | undefined;
  /** The paths whose field depends on a choice, each followed once. */
  readonly #followed = new Map<string, (() => void) | undefined>();
  readonly #ended = new AbortController();
  readonly #undo: (() => void)[] = [];
  #syncing = false;

  constructor(form: HTMLFormElement, gate: BoundGate, { rows, options, summary }: BindOptions) {
    this.#form = form;
    this.#gate = gate;
    const places = new Hooks(form);
    this.#wiring = startWiring(form, gate, {
      line: places.find('messages', '') ?? undefined,
      attributes: this.#attributes,
      submits: () => this.#submits(),
      resets: () => this.#fields.forEach((field) => field.rewrite()),
    });
    const place = places.find('summary', '');
    this.#summary = place ? summary?.({ gate, place, attributes: this.#attributes }) : undefined;
    this.#rows = rows?.({
      form,
      gate,
      signal: this.#ended.signal,
      changed: () => this.#sync(),
    });
    this.#options = options?.({ form, gate, changed: () => this.#sync() });
    this.#takePosted();
    this.#listen();
    this.#undo.push(
      startHookWarnings(form, gate, {
        rows: rows !== undefined,
        options: options !== undefined,
        summary: summary !== undefined,
      }),
    );
  }

  undo(): void {
    this.#ended.abort();
    this.#undo.forEach((undo) => undo());
    for (const field of this.#fields.values()) field.undo();
    this.#rows?.undo();
    this.#options?.undo();
    for (const hook of PARTS) for (const { undo } of this.#parts[hook].values()) undo();
    for (const undo of this.#followed.values()) undo?.();
    this.#summary?.undo();
    this.#wiring.undo();
    this.#attributes.restore();
  }

  /** The first look at the page. If the server drew it for a form that was posted without script, what it found is taken over. */
  #takePosted(): void {
    const posted = this.#form.getAttribute(POSTED);
    this.#sync(posted !== null);
    if (posted === null) return;
    this.#form.removeAttribute(POSTED);
    takeRefusal(this.#gate, { findings: JSON.parse(posted) as unknown });
  }

  /**
   * Brings the binding in line with what the page holds by now.
   *
   * @param posted whether its controls hold what was sent, whatever the markup says
   */
  #sync(posted = false): void {
    // Rows that are drawn on the way join in.
    if (this.#syncing) return;
    this.#syncing = true;
    // Rows may have moved: what a path leads through is looked up again.
    for (const undo of this.#followed.values()) undo?.();
    this.#followed.clear();
    try {
      this.#gate.batch(() => {
        this.#rows?.sync();
        this.#options?.sync();
        this.#syncParts(this.#syncFields(posted));
      });
    } finally {
      this.#syncing = false;
    }
  }

  /** The field at a path, and syncs again when the path names another field. */
  #find(path: string): Handle | undefined {
    if (!this.#gate.has(path)) return undefined;
    if (!this.#followed.has(path))
      this.#followed.set(
        path,
        followPath(this.#gate, path, () => this.#sync()),
      );
    return this.#gate.field(path);
  }

  /** @returns the hooks of the form, without places that went with fields */
  #syncFields(posted: boolean): Hooks {
    const found = new Map<Handle, Control[]>();
    for (const element of this.#form.elements) {
      if (!isControl(element)) continue;
      const name = nameOf(element);
      const handle = name === '' ? undefined : this.#find(name);
      if (!handle || handle.traits.hasParts) continue;
      const controls = found.get(handle);
      if (controls) controls.push(element);
      else found.set(handle, [element]);
    }
    for (const [handle, field] of this.#fields) {
      const controls = found.get(handle);
      if (controls?.length === field.controls.length && controls.every((control, i) => control === field.controls[i])) {
        found.delete(handle);
        field.rename();
      } else {
        field.undo();
        this.#fields.delete(handle);
      }
    }
    const places = new Hooks(this.#form);
    for (const [handle, controls] of found) {
      // What the browser restored, or the user typed before the script ran, is an edit; what the markup says is none.
      const { holds } = handle.traits;
      const now = readControls(controls, holds);
      const filled = posted || controls.some(isFilled);
      // (A default gives way to what the markup says, not to what a select or a slider begins with.)
      if (isEmptyRaw(handle.raw) || controls.some(isStated)) {
        const markup = filled ? markupValue(controls, holds) : now;
        if (!isEmptyRaw(markup ?? '')) offerMarkup(handle, markup);
      }
      if (filled) handle.set(now);
      const field = new BoundField(controls, handle, places, this.#attributes, this.#wiring);
      this.#fields.set(handle, field);
      for (const control of controls) this.#fieldByControl.set(control, field);
    }
    return places;
  }

  /** Texts of what has no control; parts that are seen only while a field applies. */
  #syncParts(places: Hooks): void {
    for (const hook of PARTS) {
      const parts = this.#parts[hook];
      const now = new Map<HTMLElement, Handle>();
      for (const [path, element] of places.all(hook)) {
        const handle = path === '' ? undefined : this.#find(path);
        // Whoever follows a field shows its findings; those of a field without a control or a place are for the line.
        const isShown = handle && (handle.traits.hasParts || (!this.#fields.has(handle) && places.find('messages', path) !== null));
        if (handle && (hook === 'applies' || isShown)) now.set(element, handle);
      }
      for (const [element, part] of parts) {
        if (now.get(element) === part.handle) now.delete(element);
        else {
          part.undo();
          parts.delete(element);
        }
      }
      for (const [element, handle] of now) parts.set(element, { handle, undo: this.#bindPart(element, handle, hook) });
    }
  }

  #bindPart(element: HTMLElement, handle: Handle, hook: (typeof PARTS)[number]): () => void {
    const render = (): void => {
      if (hook === 'messages') {
        if (showIn(element, handle.shown)) this.#describeWhole(handle);
      } else if (hook === 'hint') setText(element, handle.hint ?? element.textContent);
      else if (hook === 'count') setText(element, handle.counter ?? '');
      else if (hook === 'label') setText(element, handle.label);
      else this.#attributes.set(element, 'hidden', handle.applies ? null : '');
    };
    // (A listener of a field counts as showing its findings. An element that is only hidden with the field shows none.)
    const undo = [hook === 'applies' ? this.#gate.watch(() => handle.applies, render) : handle.subscribe(render)];
    // A field that the author connects has its own way to take the focus.
    if (hook === 'messages' && handle.traits.hasParts) {
      this.#attributes.set(element, 'tabindex', '-1');
      undo.push(connect(handle, { element, focus: (opens) => focusIn(this.#adder(handle.path) ?? element, opens) }));
    }
    render();
    if (hook === 'hint') this.#describeWhole(handle);
    return () => undo.forEach((each) => each());
  }

  /** Has the hint and the messages of a list describe the button that adds rows, which takes the focus. */
  #describeWhole({ path }: Handle): void {
    const places = new Hooks(this.#form);
    const adder = places.find('add', path);
    if (!adder) return;
    const there = [places.find('hint', path), places.find('messages', path)].filter((place) => place?.hasChildNodes());
    const ids = [this.#attributes.authored(adder, 'aria-describedby'), ...there.map((place) => idOf(place!, this.#attributes))];
    this.#attributes.set(adder, 'aria-describedby', ids.filter(Boolean).join(' ') || null);
  }

  #adder(path: string): HTMLElement | null {
    return new Hooks(this.#form).find('add', path);
  }

  /**
   * Listens where the form stands, not on the form: controls may belong to it from outside (`form="id"`), or come later.
   */
  #listen(): void {
    const { signal } = this.#ended;
    const root = this.#form.getRootNode();
    const changed = (event: Event): void => {
      // Text that is still being composed is no value yet.
      if (!(event as InputEvent).isComposing) this.#fieldOf(event.target)?.read();
    };
    for (const type of ['input', 'change', 'compositionend']) root.addEventListener(type, changed, { signal });
    root.addEventListener('focusout', (event) => this.#left(event as FocusEvent), { signal });
    // Going back in the history may restore what was typed, later than this script ran.
    window.addEventListener('pageshow', () => this.#fields.forEach((field) => field.controls.some(isFilled) && field.read()), { signal });
    const observer = new MutationObserver((records) => this.#mutated(records));
    observer.observe(root, { subtree: true, childList: true, attributes: true, attributeFilter: ['disabled', 'name', 'form'] });
    this.#undo.push(() => observer.disconnect());
    // Custom elements take part in the form as soon as they are defined.
    for (const element of undefinedElements(this.#form))
      void customElements.whenDefined(element.localName).then(() => signal.aborted || this.#sync());
  }

  #mutated(records: readonly MutationRecord[]): void {
    // (What imitates a page may report changes after the end.)
    if (this.#ended.signal.aborted) return;
    const relevant = (node: globalThis.Node): boolean =>
      node instanceof Element && (node.matches(RELEVANT) || node.querySelector(RELEVANT) !== null);
    const structural = records.some(({ type, attributeName, addedNodes, removedNodes }) =>
      type === 'attributes' ? attributeName !== 'disabled' : [...addedNodes, ...removedNodes].some(relevant),
    );
    if (structural) this.#sync();
    // Not for each message that comes or goes: that would look at every field.
    if (structural || records.some(({ attributeName }) => attributeName === 'disabled'))
      this.#gate.batch(() => this.#fields.forEach((field) => field.noteDisabled()));
  }

  #fieldOf(target: EventTarget | null): BoundField | undefined {
    const field = target ? this.#fieldByControl.get(target as Control) : undefined;
    return field && formOf(target as Control) === this.#form ? field : undefined;
  }

  #left({ target, relatedTarget }: FocusEvent): void {
    const field = this.#fieldOf(target);
    if (!field || field.controls.includes(relatedTarget as Control)) return;
    // Half a date makes no `input` event; on leaving, it tells.
    field.read();
    this.#wiring.leave(field.handle);
  }

  #submits(): void {
    this.#fieldOf((this.#form.getRootNode() as Document | ShadowRoot).activeElement)?.read();
  }
}
