// A form in markup, of whatever server: the element binds the form in it to its gate for as long as both are on the page.

import { DEV, explain, warnOnce } from '#development';
import { interrupt } from '../binding/index.ts';
import { bindForm, type BindOptions } from '../dom/bindForm.ts';
import { shadowFields } from '../dom/shadowFields.ts';
import type { AnyGate } from '../gate/gate.ts';
import { FieldElement } from './field.ts';
import { PageElement } from './page.ts';

/** Makes the gate of a form, once for each element. It gets the form, where data from the server may stand: `form.dataset`. */
export type MakeGate = (form: HTMLFormElement) => AnyGate;

/** What the forms of a page have in common, whichever copy of the library has defined the elements. */
interface Forms {
  /** What makes the gate of a name, and the features of its forms. */
  readonly makers: Map<string, readonly [make: MakeGate, options: BindOptions]>;
  /** The elements on the page, and what has each look at it again. */
  readonly present: Map<FormElement, () => void>;
}
const FORMS = Symbol.for('upper-gate: forms of the page');
const known = Reflect.get(globalThis, FORMS) as Forms | undefined;
const { makers, present }: Forms = known ?? { makers: new Map(), present: new Map() };
Reflect.set(globalThis, FORMS, { makers, present });

/**
 * `<upper-gate-form gate="booking">`, around a form, in the page or in a shadow root: the form is bound to the gate of that name. It may be
 * moved, its form replaced; the gate stays with the element.
 *
 * @example
 * document.querySelector<FormElement>('upper-gate-form')!.gate?.field('vessel').set('Otter');
 */
export class FormElement extends PageElement {
  static readonly observedAttributes: readonly string[] = ['gate'];
  readonly #root: ParentNode & globalThis.Node = this.attachInternals().shadowRoot ?? this;
  readonly #observer = new MutationObserver(() => this.#sync());
  #gate: AnyGate | undefined;
  /** The name by which the gate was made. */
  #name: string | null = null;
  #options: BindOptions = {};
  #bound: { readonly form: HTMLFormElement; readonly root: object; readonly gate: AnyGate; readonly undo: () => void } | undefined;

  /** The gate of the form, once there is one. */
  get gate(): AnyGate | undefined {
    return this.#gate;
  }

  /**
   * Binds the form to a gate that a script has made.
   *
   * @param gate the gate
   * @param options the features of the form, as of `bindForm`
   *
   * @example
   * document.querySelector<FormElement>('upper-gate-form')!.bind(createGate(passage), { rows: templateRows });
   */
  bind(gate: AnyGate, options: BindOptions = {}): void {
    this.#gate = gate;
    this.#options = options;
    this.#sync();
  }

  /** Called by the browser. */
  connectedCallback(): void {
    present.set(this, () => this.#sync());
    // (Its form, or one in place of it, may come later.)
    this.#observer.observe(this.#root, { subtree: true, childList: true });
    this.#sync();
  }
  /** Called by the browser, where the element is moved with `moveBefore`. */
  connectedMoveCallback(): void {
    this.#sync();
  }
  /** Called by the browser. */
  disconnectedCallback(): void {
    // What is only moved is there again by then.
    queueMicrotask(() => {
      if (this.isConnected) return;
      present.delete(this);
      this.#observer.disconnect();
      this.#unbind();
      if (this.#gate) interrupt(this.#gate);
    });
  }
  /** Called by the browser. */
  attributeChangedCallback(): void {
    this.#sync();
  }

  #unbind(): void {
    const bound = this.#bound;
    this.#bound = undefined;
    bound?.undo();
  }

  /** Looks at what is there now. One form that cannot be bound is in the way of no other. */
  #sync(): void {
    if (!this.isConnected) return;
    try {
      this.#bind(this.#root.querySelector('form'));
    } catch (error) {
      reportError(error);
    }
  }

  /** Binds the form that is there now to the gate that it has now. */
  #bind(form: HTMLFormElement | null): void {
    // While the page is still arriving, the end of the form may not be there.
    if (form && document.readyState === 'loading') return document.addEventListener('DOMContentLoaded', () => this.#sync(), { once: true });
    const name = this.getAttribute('gate');
    const named = name === this.#name || name === null ? undefined : makers.get(name);
    if (form && named) {
      if (this.#gate) interrupt(this.#gate);
      this.#gate = undefined;
      [, this.#options] = named;
      this.#name = name;
      this.#gate = named[0](form);
    }
    const gate = this.#gate;
    const root = form?.getRootNode();
    if (this.#bound && this.#bound.form === form && this.#bound.gate === gate && this.#bound.root === root) return;
    this.#unbind();
    if (form && root && gate) this.#bound = { form, root, gate, undo: bindForm(form, gate, { ...this.#options, shadows: shadowFields }) };
  }
}

/**
 * Defines `<upper-gate-form>` and `<upper-gate-field>`, and names the gates of forms. Forms that are on the page are bound at once, others as
 * they come. Call it as often as there are parts that bring forms.
 *
 * @param gates what makes the gate of a form, by the name in its attribute `gate`
 * @param options the features of these forms, as of `bindForm`: `rows`, `options`, `summary`
 *
 * @example
 * defineForms({ booking: () => createGate(passage, { submit: (data) => api.book(data) }) }, { rows: templateRows });
 * // <upper-gate-form gate="booking"><form action="/bookings" method="post">...</form></upper-gate-form>
 */
export function defineForms(gates: Readonly<Record<string, MakeGate>> = {}, options: BindOptions = {}): void {
  for (const [name, make] of Object.entries(gates)) makers.set(name, [make, options]);
  // (On a server there are no elements. Fields first: a form that is bound finds them there.)
  const registry = globalThis.customElements as CustomElementRegistry | undefined;
  for (const [name, element] of [
    ['upper-gate-field', FieldElement],
    ['upper-gate-form', FormElement],
  ] as const)
    if (registry && !registry.get(name)) registry.define(name, element);
  present.forEach((look) => look());
  // (Others may be named by then.)
  if (DEV)
    setTimeout(() =>
      present.forEach((_, element) =>
        warnOnce(element, () => [
          isForgotten(element) &&
            explain(
              'form-without-gate',
              `<upper-gate-form gate="${element.getAttribute('gate')!}"> has no gate, so its form is sent unchecked: nothing has that name. Name it: defineForms({ ${element.getAttribute('gate')!}: () => createGate(schema) }).`,
            ),
        ]),
      ),
    );
}

/** Whether an element names a gate that nobody makes. */
function isForgotten(element: FormElement): boolean {
  const name = element.getAttribute('gate');
  return name !== null && !makers.has(name) && element.gate === undefined;
}
