// The custom element: a button in the corner of the page, and the panel that it opens. While it is closed, it follows nothing.

import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import { gateOfForm } from '../showing/formGate.ts';
import { timelineOf } from '../testing/timeline.ts';
import { toRehearsal } from '../testing/toRehearsal.ts';
import { traceGate, type Trace } from '../trace/traceGate.ts';
import { drawDetails } from './details.ts';
import { button, h } from './draw.ts';
import { drawLanes } from './lanes.ts';
import { detailsOf, treeOf } from './model.ts';
import { pick } from './pick.ts';
import { keepStill } from './still.ts';
import { styleSheet } from './style.ts';
import { createTree } from './tree.ts';

export const NAME = 'upper-gate-inspector';

/** How often the timeline goes on by itself, in milliseconds. */
const TICK = 1000;

/** A form that is inspected. */
interface Inspected {
  readonly gate: AnyGate;
  readonly name: string;
}

/** The inspector, as an element of the page. */
export interface InspectorElement extends HTMLElement {
  /**
   * Adds a form.
   *
   * @param gate its gate
   * @param name what it is called
   * @returns takes it out again
   */
  add(gate: AnyGate, name?: string): () => void;
  /** Whether the panel is open. */
  open: boolean;
  /** Whether it finds the forms of the page by itself. */
  findsForms: boolean;
  /** Whether it has nothing to inspect. */
  readonly isEmpty: boolean;
}

/** Makes the class. (Where there is no page, there is nothing to extend.) */
export function inspectorClass(): CustomElementConstructor {
  return class Inspector extends HTMLElement implements InspectorElement {
    /** (Closed: what looks through a page, its tests among them, sees nothing of it.) */
    readonly #root = this.attachShadow({ mode: 'closed' });
    readonly #inspected: Inspected[] = [];
    #current: Inspected | undefined;
    #path = '';
    #trace: Trace | undefined;
    #isPaused = false;
    /** Whether what is to be copied stands in place of the details. */
    #isCopying = false;
    #isDue = false;
    #lastDetails = '';
    #undo: (() => void)[] = [];
    #stopPicking: (() => void) | undefined;
    /** What has to be undone when another form is followed. */
    #following: (() => void)[] = [];
    #ticking: ReturnType<typeof setInterval> | undefined;

    readonly #toggle = button('Inspect forms', { class: 'toggle' }, () => (this.open = true));
    readonly #panel = h('aside', { 'aria-label': 'Form inspector', hidden: '' });
    readonly #forms = h('select', { 'aria-label': 'Form' });
    readonly #filter = h('input', { type: 'search', autocomplete: 'off', size: '12' });
    readonly #said = h('output', {});
    readonly #pick = button('Pick a field', { 'aria-pressed': 'false' }, () => this.#startPicking());
    readonly #pause = button('Pause', { 'aria-pressed': 'false' }, () => this.#setPaused(!this.#isPaused));
    readonly #tree = createTree((path) => this.#choose(path));
    readonly #details = h('section', { class: 'pane', 'aria-label': 'Field', tabindex: '0' });
    readonly #lanes = h('section', { class: 'pane', 'aria-label': 'Timeline', tabindex: '0' });

    constructor() {
      super();
      const root = this.#root;
      root.adoptedStyleSheets = [styleSheet()];
      const header = h(
        'header',
        {},
        h('h1', {}, 'Form inspector'),
        this.#forms,
        this.#pick,
        h('label', {}, 'Filter', this.#filter),
        this.#pause,
        button('Clear', {}, () => this.#clear()),
        button('Copy as rehearsal', {}, () => void this.#copy()),
        this.#said,
        h('span', { class: 'spacer' }),
        button('Close', {}, () => (this.open = false)),
      );
      const fields = h('section', { class: 'pane', 'aria-label': 'Fields of the form' }, this.#tree.element);
      this.#panel.append(header, fields, this.#details, this.#lanes);
      root.append(this.#panel, this.#toggle);
      this.#forms.addEventListener('change', () => this.#follow(this.#inspected[this.#forms.selectedIndex]));
      this.#filter.addEventListener('input', () => this.#draw());
      // A press does not move the focus away from the page, but into fields of the panel itself.
      root.addEventListener('mousedown', (event) => {
        const target = event.target as Element;
        if (target.closest('button') !== null || target.closest('input, select, textarea, .pane') === null) event.preventDefault();
      });
      root.addEventListener('keydown', (event) => {
        if ((event as KeyboardEvent).key === 'Escape' && this.open) this.open = false;
      });
    }

    connectedCallback(): void {
      this.#undo.push(keepStill(this, this.#root));
      if (this.hasAttribute('open')) this.open = true;
    }

    disconnectedCallback(): void {
      this.open = false;
      for (const undo of this.#undo) undo();
      this.#undo = [];
    }

    findsForms = false;

    get isEmpty(): boolean {
      return this.#inspected.length === 0 && !this.findsForms;
    }

    /** Adds the forms that are on the page by now. */
    #find(): void {
      if (!this.findsForms) return;
      for (const form of document.forms) {
        const gate = gateOfForm(form);
        const name = form.getAttribute('aria-label') ?? form.getAttribute('id') ?? undefined;
        if (gate && !this.#inspected.some((each) => each.gate === gate)) this.add(gate, name);
      }
    }

    add(gate: AnyGate, name = `Form ${this.#inspected.length + 1}`): () => void {
      const known = this.#inspected.find((each) => each.gate === gate);
      const inspected = known ?? { gate, name };
      if (!known) this.#inspected.push(inspected);
      const remove = (): void => {
        const at = this.#inspected.indexOf(inspected);
        if (at < 0) return;
        this.#inspected.splice(at, 1);
        internalsOf(gate).onDispose.delete(remove);
        this.#list();
        if (this.#current === inspected) this.#follow(this.open ? this.#inspected[0] : undefined);
      };
      internalsOf(gate).onDispose.add(remove);
      this.#list();
      if (this.open && !this.#current) this.#follow(inspected);
      return remove;
    }

    get open(): boolean {
      return !this.#panel.hidden;
    }

    set open(isOpen: boolean) {
      if (isOpen === this.open) return;
      const hadFocus = this.#root.activeElement !== null;
      this.toggleAttribute('open', isOpen);
      this.#panel.hidden = !isOpen;
      this.#toggle.hidden = isOpen;
      this.#stopPicking?.();
      clearInterval(this.#ticking);
      if (isOpen) {
        this.#find();
        this.#ticking = setInterval(() => {
          this.#find();
          this.#schedule();
        }, TICK);
      }
      this.#follow(isOpen ? this.#inspected[0] : undefined);
      // Whoever opens and closes it by keyboard stays in it.
      if (hadFocus) (isOpen ? this.#pick : this.#toggle).focus();
    }

    #list(): void {
      this.#forms.replaceChildren(...this.#inspected.map(({ name }) => h('option', {}, name)));
      this.#forms.hidden = this.#inspected.length < 2;
    }

    /** Follows a form, or none. */
    #follow(inspected: Inspected | undefined): void {
      this.#trace?.stop();
      this.#trace = undefined;
      for (const undo of this.#following) undo();
      this.#following = [];
      this.#current = inspected;
      this.#path = '';
      this.#isCopying = false;
      if (!inspected) {
        this.#tree.draw([], '');
        for (const pane of [this.#details, this.#lanes]) pane.replaceChildren();
        return;
      }
      this.#forms.selectedIndex = this.#inspected.indexOf(inspected);
      const { gate } = inspected;
      this.#record();
      this.#following.push(gate.subscribe(() => this.#schedule()));
      this.#draw();
    }

    #record(): void {
      this.#trace?.stop();
      if (!this.#current) return;
      this.#trace = traceGate(this.#current.gate);
      this.#trace.subscribe(() => this.#schedule());
    }

    /** Draws in the next frame, once for all that happens until then. */
    #schedule(): void {
      if (this.#isDue || this.#isPaused) return;
      this.#isDue = true;
      requestAnimationFrame(() => {
        this.#isDue = false;
        if (!this.#isPaused) this.#draw();
      });
    }

    #draw(): void {
      if (!this.#current || !this.open) return;
      try {
        this.#drawAll(this.#current.gate);
      } catch (error) {
        // (The page goes on, whatever a form of its own kind makes of it.)
        this.#say(`The form cannot be shown: ${String(error)}`);
      }
    }

    #drawAll(gate: AnyGate): void {
      const { value } = this.#filter;
      this.#tree.draw(treeOf(gate, value), this.#path);
      if (this.#trace) drawLanes(this.#lanes, timelineOf(this.#trace.toJSON()), value);
      if (this.#isCopying) return;
      const details = detailsOf(gate, this.#trace, this.#path);
      // (What has not changed stays, with the focus in it.)
      const text = JSON.stringify(details);
      if (text !== this.#lastDetails) this.#drawDetails(details);
      this.#lastDetails = text;
    }

    #drawDetails(details: ReturnType<typeof detailsOf>): void {
      const active = this.#root.activeElement;
      const had = active && this.#details.contains(active) ? active.textContent : undefined;
      const { scrollTop } = this.#details;
      drawDetails(this.#details, details, {
        has: (path) => this.#current?.gate.has(path) === true,
        choose: (path) => this.#choose(path),
        show: () => void this.#current?.gate.field(this.#path).focus(),
      });
      this.#details.scrollTop = scrollTop;
      if (had !== undefined)
        ([...this.#details.querySelectorAll('button')].find(({ textContent }) => textContent === had) ?? this.#details).focus();
    }

    #choose(path: string): void {
      this.#path = path;
      this.#isCopying = false;
      this.#lastDetails = '';
      this.#details.scrollTop = 0;
      this.#draw();
    }

    #setPaused(isPaused: boolean): void {
      this.#isPaused = isPaused;
      this.#pause.setAttribute('aria-pressed', String(isPaused));
      if (!isPaused) this.#draw();
    }

    #clear(): void {
      this.#record();
      this.#draw();
      this.#say('');
    }

    #say(text: string): void {
      this.#said.textContent = text;
    }

    #startPicking(): void {
      if (this.#stopPicking) return this.#stopPicking();
      const stop = pick(
        this,
        this.#inspected.map(({ gate }) => gate),
        (gate, path) => {
          end();
          if (!gate) return this.#say('No field was picked.');
          if (gate !== this.#current?.gate) this.#follow(this.#inspected.find((each) => each.gate === gate));
          this.#say('');
          this.#choose(path!);
        },
      );
      const end = (): void => {
        stop();
        this.#stopPicking = undefined;
        this.#pick.setAttribute('aria-pressed', 'false');
      };
      this.#stopPicking = end;
      this.#pick.setAttribute('aria-pressed', 'true');
      this.#say('Click a field on the page, or press Escape.');
    }

    async #copy(): Promise<void> {
      if (!this.#current || !this.#trace) return;
      try {
        const { script, gaps } = await toRehearsal(this.#current.gate.schema, this.#trace);
        const isCopied = await this.#give(JSON.stringify(script, null, 2));
        this.#say([isCopied ? 'Copied.' : 'Copy it from here.', ...gaps].join(' '));
      } catch (error) {
        this.#say(`It cannot be copied: ${String(error)}`);
      }
    }

    /** Puts a text into the clipboard; where a page may not do that, the user copies it by hand. */
    async #give(text: string): Promise<boolean> {
      try {
        await navigator.clipboard.writeText(text);
        return true;
      } catch {
        const area = h('textarea', { readonly: '', rows: '12', 'aria-label': 'The rehearsal' }, text);
        this.#isCopying = true;
        this.#details.replaceChildren(area);
        area.focus();
        area.select();
        return false;
      }
    }
  };
}
