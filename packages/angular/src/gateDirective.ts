// The directive that puts a bundle on an element.

import { isPlatformBrowser } from '@angular/common';
import {
  afterNextRender,
  DestroyRef,
  Directive,
  effect,
  ElementRef,
  inject,
  Injector,
  input,
  PLATFORM_ID,
  Renderer2,
  untracked,
} from '@angular/core';
import type { ElementBundle } from './bundle.ts';

type Values = Readonly<Record<string, string | number | boolean | undefined>>;

/**
 * Puts a bundle on an element: its attributes, what it calls back, and what ties it to the form.
 *
 * @example
 * <label [gate]="vessel.label()">{{ vessel.state().label }}</label> <input [gate]="vessel.input()" />
 */
@Directive({ selector: '[gate]' })
export class GateDirective {
  /** What a field, a list, a summary or the form has for this element. */
  readonly gate = input.required<ElementBundle>();
  readonly #element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly #injector = inject(Injector);
  readonly #renderer = inject(Renderer2);
  readonly #isInBrowser = isPlatformBrowser(inject(PLATFORM_ID));
  #bundle: ElementBundle = { attributes: {} };
  #attached: ElementBundle['attach'];
  #undo: (() => void) | undefined;

  constructor() {
    effect(() => {
      const now = this.gate();
      untracked(() => this.#put(now));
    });
    inject(DestroyRef).onDestroy(() => this.#undo?.());
  }

  #put(now: ElementBundle): void {
    const before = this.#bundle;
    this.#bundle = now;
    const { attributes: last } = before as { attributes: Values };
    const { attributes } = now as { attributes: Values };
    for (const name of Object.keys({ ...last, ...attributes })) if (attributes[name] !== last[name]) this.#set(name, attributes[name]);
    for (const event of Object.keys(now.on ?? {}))
      if (!before.on?.[event]) this.#renderer.listen(this.#element, event, (given: Event) => this.#bundle.on?.[event]?.(given));
    // (A select shows a value once its options are drawn.)
    const isLater = now.attach !== before.attach || this.#element.localName === 'select';
    if (this.#isInBrowser && isLater) afterNextRender({ write: () => this.#attach() }, { injector: this.#injector });
    else this.#show();
  }

  /** Ties the element, once all are drawn. What the user typed before the script ran is taken over before anything is shown in its place. */
  #attach(): void {
    const { attach } = this.#bundle;
    if (attach !== this.#attached) {
      this.#undo?.();
      this.#attached = attach;
      this.#undo = attach?.(this.#element);
    }
    this.#show();
  }

  #set(name: string, value: Values[string]): void {
    if (value === undefined || (value === false && !name.startsWith('aria-'))) this.#renderer.removeAttribute(this.#element, name);
    else this.#renderer.setAttribute(this.#element, name, value === true && !name.startsWith('aria-') ? '' : String(value));
  }

  #show(): void {
    const element = this.#element as HTMLElement & Values;
    for (const [name, value] of Object.entries(this.#bundle.shows ?? {}))
      if (element[name] !== value) this.#renderer.setProperty(element, name, value);
  }
}
