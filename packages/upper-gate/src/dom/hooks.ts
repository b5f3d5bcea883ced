// The author's hooks on the page: where the messages, the hint, the counter, the label of a field go, what is shown only
// while a field applies, where the summary goes, what adds a row.

import type { FollowedShadows } from './shadowFields.ts';

const HOOKS = ['messages', 'hint', 'count', 'label', 'applies', 'summary', 'add'] as const;
type Hook = (typeof HOOKS)[number];

const attribute = (hook: Hook): string => `data-gate-${hook}`;

/** The hooks of one form, found in one walk: in the form, or outside of every form. */
export class Hooks {
  readonly #first = new Map<Hook, Map<string, HTMLElement>>();
  readonly #all = new Map<Hook, [path: string, element: HTMLElement][]>();

  constructor(form: HTMLFormElement, shadows?: Pick<FollowedShadows, 'hooked'>) {
    for (const hook of HOOKS) {
      const name = attribute(hook);
      const found: [string, HTMLElement][] = [];
      const first = new Map<string, HTMLElement>();
      for (const element of (form.getRootNode() as ParentNode).querySelectorAll<HTMLElement>(`[${name}]`)) {
        const inside = form.contains(element);
        if (!inside && element.closest('form')) continue;
        const path = element.getAttribute(name)!;
        found.push([path, element]);
        // The first; one in the form comes before those around it.
        const before = first.get(path);
        if (!before || (inside && !form.contains(before))) first.set(path, element);
      }
      for (const [path, element] of shadows?.hooked(name) ?? []) {
        found.push([path, element]);
        // What a field has itself comes before what is around it.
        if (first.get(path)?.getRootNode() !== element.getRootNode()) first.set(path, element);
      }
      this.#all.set(hook, found);
      this.#first.set(hook, first);
    }
  }

  /** The place of a field (`''`: of the form), if there is one: in the form, else outside of all forms. */
  find(hook: Hook, path: string): HTMLElement | null {
    return this.#first.get(hook)!.get(path) ?? null;
  }

  all(hook: Hook): readonly (readonly [path: string, element: HTMLElement])[] {
    return this.#all.get(hook)!;
  }
}

/** Names the field whose messages a place is for. */
export function namePlace(place: HTMLElement, path: string): void {
  place.dataset['gateMessages'] = path;
}
