// Fields whose controls are in a shadow root, which no form sees: an element of the form stands for them.

import { nameOf, type Control } from '../showing/controls.ts';
import { controlsOf, fieldRootOf, standInOf } from '../showing/standIn.ts';

/** What following shadow roots needs of the binding. */
interface ShadowContext {
  /** Ends with the binding. */
  readonly signal: AbortSignal;
  /** Follows what comes and goes in a shadow root. */
  readonly observe: (root: ShadowRoot) => void;
  /** Something was changed in a control. */
  readonly changed: (event: Event) => void;
}

/** The shadow roots that fields of a form are in. */
export interface FollowedShadows {
  readonly roots: Iterable<ShadowRoot>;
  /** Looks at the form again, from the start. */
  restart(): void;
  /** The controls that an element of the form stands for; else itself. */
  controlsOf(element: Element): readonly Control[];
  /** What stands in the form for a control: mostly itself. */
  readonly standInOf: (control: Control) => Control;
  /** What has a hook in there, and for which field: what names none is for that one. */
  hooked(attribute: string): readonly (readonly [path: string, element: HTMLElement])[];
}

/** Follows the fields in shadow roots. */
export type ShadowFeature = (context: ShadowContext) => FollowedShadows;

/**
 * Follows fields in shadow roots, where an element stands in the form for them: `<upper-gate-field>`, or another `FieldElement`.
 *
 * @example
 * bindForm(form, gate, { shadows: shadowFields });
 */
export const shadowFields: ShadowFeature = ({ signal, observe, changed }) => {
  const roots = new Set<ShadowRoot>();
  return {
    roots,
    restart: () => roots.clear(),
    standInOf,
    controlsOf(element) {
      const root = fieldRootOf(element);
      if (root) {
        roots.add(root);
        observe(root);
        // (That is heard in there only.)
        root.addEventListener('change', changed, { signal });
      }
      return controlsOf(element);
    },
    hooked: (attribute) =>
      [...roots].flatMap((root) =>
        [...root.querySelectorAll<HTMLElement>(`[${attribute}]`)].map(
          (element) => [element.getAttribute(attribute)! || nameOf(root.host as Control), element] as const,
        ),
      ),
  };
};
