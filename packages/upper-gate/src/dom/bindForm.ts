// Wiring a plain form to a gate, by the names of its controls.

import { devAssert, explain } from '#development';
import { startHookWarnings } from '#hookWarnings';
import type { AnyGate } from '../gate/gate.ts';
import type { Handle } from '../gate/handle.ts';
import { internalsOf } from '../gate/internals.ts';
import { takeRefusal } from '../gate/takeRefusal.ts';
import { AttributeWriter } from '../showing/attributes.ts';
import { offerMarkup, tie } from '../showing/connect.ts';
import { formOf, isControl, isFilled, isStated, markupValue, nameOf, readControls, type Control } from '../showing/controls.ts';
import { describeBy } from '../showing/describe.ts';
import { enter } from '../showing/entering.ts';
import { focusIn } from '../showing/focus.ts';
import { whenLeft } from '../showing/leaving.ts';
import { setText, showIn } from '../showing/messages.ts';
import { isElement, undefinedElements } from '../showing/page.ts';
import { isEmptyRaw } from '../showing/status.ts';
import { handleAt } from '../showing/variants.ts';
import { startWiring } from '../showing/wiring.ts';
import { BoundField } from './field.ts';
import { Hooks } from './hooks.ts';
import type { OptionsFeature } from './options.ts';
import type { RowsFeature } from './rows.ts';
import type { ShadowFeature } from './shadowFields.ts';
import type { SummaryFeature } from './summary.ts';

/** Features that only some forms need. A page loads those that it names. */
export interface BindOptions {
  /** Rows from templates: `templateRows`. */
  readonly rows?: RowsFeature;
  /** Options that depend on other fields: `movingOptions`. */
  readonly options?: OptionsFeature;
  /** Fields in shadow roots: `shadowFields`. */
  readonly shadows?: ShadowFeature;
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
 * @param options the features of the page: `rows`, `options`, `shadows`, `summary`
 * @returns undoes everything
 *
 * @example
 * const unbind = bindForm(document.querySelector('form')!, createGate(passage, { submit: send }));
 * bindForm(form, gate, { rows: templateRows, summary: errorSummary });
 */
export function bindForm(form: HTMLFormElement, gate: AnyGate, options: BindOptions = {}): () => void {
  devAssert(
    () =>
      bound.has(form) &&
      explain('form-bound-twice', 'This form is already bound. Call the function that the first bindForm() returned, then bind it again.'),
  );
  const undo = bind(form, gate, options);
  bound.add(form);
  return () => {
    undo();
    bound.delete(form);
  };
}

const bound = new WeakSet<HTMLFormElement>();
/** Marks a form that a server has drawn again, see `redrawForm`: with its findings, as JSON. */
const POSTED = 'data-gate-posted';

/** Adding or removing an element with one of these attributes changes the binding. */
const RELEVANT =
  'input, select, textarea, template, [name], [data-gate-messages], [data-gate-applies], [data-gate-label], [data-gate-hint], [data-gate-count]';

/** What is followed on the page, and in shadow roots. */
const OBSERVED = { subtree: true, childList: true, attributes: true, attributeFilter: ['disabled', 'name', 'form'] };

const isRelevant = (node: globalThis.Node): boolean => isElement(node) && (node.matches(RELEVANT) || node.querySelector(RELEVANT) !== null);

/** What the binding does to an element that is no control, and for which field. */
interface BoundPart {
  readonly handle: Handle;
  readonly undo: () => void;
}
const PARTS = ['hint', 'count', 'messages', 'label', 'applies'] as const;
type PartHook = (typeof PARTS)[number];

function bind(form: HTMLFormElement, gate: AnyGate, features: BindOptions): () => void {
  const root = form.getRootNode();
  const attributes = new AttributeWriter();
  const ended = new AbortController();
  const { signal } = ended;
  /** The fields that have controls now. */
  const fields = new Map<Handle, BoundField>();
  const fieldByControl = new WeakMap<EventTarget, BoundField>();
  /** Places of what has no control (groups, lists, fields that the author connects), and parts that come and go: which field they follow. */
  const parts = PARTS.map((hook) => [hook, new Map<HTMLElement, BoundPart>()] as const);
  const awaited = new Set<string>();
  let isSyncing = false;
  /** Whether paths may name other fields by now: in an either-or, another case was chosen. */
  let isMoved = false;

  /** Brings the binding in line with what the page holds by now. @param isPosted whether its controls hold what was sent, whatever the markup says */
  const sync = (isPosted = false): void => {
    // Rows that are drawn on the way join in.
    if (isSyncing) return;
    isSyncing = true;
    try {
      gate.batch(() => {
        rows?.sync();
        options?.sync();
        syncParts(syncFields(isPosted));
      });
      // Custom elements take part in the form as soon as they are defined.
      for (const { localName } of [form, ...(shadows?.roots ?? [])].flatMap(undefinedElements)) {
        if (awaited.has(localName)) continue;
        awaited.add(localName);
        void customElements.whenDefined(localName).then(() => signal.aborted || sync());
      }
    } finally {
      isSyncing = false;
    }
  };

  /** @returns the hooks of the form, without places that went with fields */
  const syncFields = (isPosted: boolean): Hooks => {
    const found = new Map<Handle, Control[]>();
    shadows?.restart();
    for (const element of form.elements) {
      const handle = isControl(element) ? handleAt(gate, nameOf(element)) : undefined;
      if (!handle || handle.traits.hasParts) continue;
      const controls = found.get(handle) ?? [];
      controls.push(...(shadows?.controlsOf(element) ?? [element as Control]));
      if (controls.length > 0) found.set(handle, controls);
    }
    for (const [handle, field] of fields) {
      const controls = found.get(handle);
      if (controls?.length === field.controls.length && controls.every((control, i) => control === field.controls[i])) {
        found.delete(handle);
        field.rename();
      } else {
        field.undo();
        fields.delete(handle);
      }
    }
    const places = new Hooks(form, shadows);
    for (const [handle, controls] of found) {
      // What the browser restored, or the user typed before the script ran, is an edit; what the markup says is none.
      const { holds } = handle.traits;
      const now = readControls(controls, holds);
      const isEarly = isPosted || controls.some((control) => isFilled(control, holds));
      // (A default gives way to what the markup says, not to what a select or a slider begins with.)
      if (isEmptyRaw(handle.raw) || controls.some((control) => isStated(control, holds))) {
        const markup = isEarly ? markupValue(controls, holds) : now;
        if (!isEmptyRaw(markup ?? '')) offerMarkup(handle, markup);
      }
      if (isEarly) enter(handle, now);
      // (What happens in a closed shadow root is only known to have happened there.)
      const told = new Set([...controls, ...controls.map(standInOf)]);
      const field = new BoundField(controls, handle, places, attributes, wiring, told);
      fields.set(handle, field);
      for (const each of told) fieldByControl.set(each, field);
    }
    return places;
  };

  /** Texts of what has no control; parts that are seen only while a field applies. */
  const syncParts = (places: Hooks): void => {
    for (const [hook, there] of parts) {
      const now = new Map<HTMLElement, Handle>();
      for (const [path, element] of places.all(hook)) {
        const handle = handleAt(gate, path);
        // Whoever follows a field shows its findings; those of a field without a control or a place are for the line.
        const isShown = handle && (handle.traits.hasParts || (!fields.has(handle) && places.find('messages', path) !== null));
        if (handle && (hook === 'applies' || isShown)) now.set(element, handle);
      }
      for (const [element, part] of there) {
        if (now.get(element) === part.handle) now.delete(element);
        else {
          part.undo();
          there.delete(element);
        }
      }
      for (const [element, handle] of now) there.set(element, { handle, undo: bindPart(element, handle, hook) });
    }
  };

  const bindPart = (element: HTMLElement, handle: Handle, hook: PartHook): (() => void) => {
    const render = (): void => {
      if (hook === 'messages') {
        if (showIn(element, handle.shown)) describeAdder(handle);
      } else if (hook === 'hint') setText(element, handle.hint ?? element.textContent);
      else if (hook === 'count') setText(element, handle.counter ?? '');
      else if (hook === 'label') setText(element, handle.label);
      else attributes.set(element, 'hidden', handle.applies ? null : '');
    };
    // (A listener of a field counts as showing its findings. An element that is only hidden with the field shows none.)
    const undo = [hook === 'applies' ? gate.watch(() => handle.applies, render) : handle.subscribe(render)];
    // A field that the author connects has its own way to take the focus.
    if (hook === 'messages' && handle.traits.hasParts) {
      attributes.set(element, 'tabindex', '-1');
      undo.push(tie(handle, { element, focus: (opens) => focusIn(new Hooks(form).find('add', handle.path) ?? element, opens) }));
    }
    render();
    if (hook === 'hint') describeAdder(handle);
    return () => undo.forEach((each) => each());
  };

  /** Has the hint and the messages of a list describe the button that adds rows, which takes the focus. */
  const describeAdder = ({ path }: Handle): void => {
    const places = new Hooks(form);
    const adder = places.find('add', path);
    if (adder) describeBy(adder, [places.find('hint', path), places.find('messages', path)], attributes);
  };

  /** The field of the innermost control that something happened in: a component may have parts that are elements of the page. */
  const fieldAt = (path: readonly EventTarget[]): BoundField | undefined => {
    const control = path.find((each) => fieldByControl.has(each));
    return control && formOf(standInOf(control as Control)) === form ? fieldByControl.get(control) : undefined;
  };
  const changed = (event: Event): void => {
    // Text that is still being composed is no value yet.
    if (!(event as InputEvent).isComposing) fieldAt(event.composedPath())?.read();
  };
  const left = (event: Event): void => {
    const field = fieldAt(event.composedPath());
    if (!field) return;
    whenLeft(field.handle, field.controls, (event as FocusEvent).relatedTarget, () => {
      // Half a date makes no `input` event; on leaving, it tells.
      field.read();
      wiring.leave(field.handle);
    });
  };
  const mutated = (records: readonly MutationRecord[]): void => {
    // (What imitates a page may report changes after the end.)
    if (signal.aborted) return;
    const isStructural = records.some(({ type, attributeName, addedNodes, removedNodes }) =>
      type === 'attributes' ? attributeName !== 'disabled' : [...addedNodes, ...removedNodes].some(isRelevant),
    );
    if (isStructural) sync();
    // Not for each message that comes or goes: that would look at every field.
    if (isStructural || records.some(({ attributeName }) => attributeName === 'disabled'))
      gate.batch(() => fields.forEach((field) => field.noteDisabled()));
  };

  // (Before the first look at the page, which may lead into shadow roots.)
  const observer = new MutationObserver(mutated);
  const shadows = features.shadows?.({ signal, changed, observe: (root) => observer.observe(root, OBSERVED) });
  const standInOf = shadows?.standInOf ?? ((control) => control);
  const places = new Hooks(form);
  const wiring = startWiring(form, gate, {
    line: places.find('messages', '') ?? undefined,
    attributes,
    submits: () => fieldAt([(root as Document | ShadowRoot).activeElement ?? form])?.read(),
    resets: () => fields.forEach((field) => field.rewrite()),
  });
  const place = places.find('summary', '');
  const summary = place ? features.summary?.({ gate, place, attributes }) : undefined;
  const rows = features.rows?.({ form, gate, signal, changed: sync });
  const options = features.options?.({ form, gate, changed: sync });

  // If the server drew the page for a form that was posted without script, what it found is taken over.
  const posted = form.getAttribute(POSTED);
  sync(posted !== null);
  if (posted !== null) {
    form.removeAttribute(POSTED);
    takeRefusal(gate, { findings: JSON.parse(posted) as unknown });
  }

  // Where the form stands, not on the form: controls may belong to it from outside (`form="id"`), or come later.
  for (const type of ['input', 'change', 'compositionend']) root.addEventListener(type, changed, { signal });
  root.addEventListener('focusout', left, { signal });
  root.addEventListener('focusin', (event) => fieldAt(event.composedPath())?.markInside(), { signal });
  // Going back in the history may restore what was typed, later than this script ran.
  form.ownerDocument.defaultView?.addEventListener(
    'pageshow',
    () => fields.forEach((field, { traits }) => field.controls.some((control) => isFilled(control, traits.holds)) && field.read()),
    { signal },
  );
  observer.observe(root, OBSERVED);
  const undo = [
    internalsOf(gate).store.observe(({ nodes }) => (isMoved ||= nodes.some(({ parent }) => parent?.part.traits.holds === 'cases'))),
    gate.subscribe(() => {
      if (!isMoved) return;
      isMoved = false;
      sync();
    }),
    startHookWarnings(form, gate, features),
  ];

  return () => {
    ended.abort();
    observer.disconnect();
    undo.forEach((each) => each());
    fields.forEach((field) => field.undo());
    rows?.undo();
    options?.undo();
    for (const [, there] of parts) there.forEach((part) => part.undo());
    summary?.undo();
    wiring.undo();
    attributes.restore();
  };
}
