// Queries on a page that work in browsers, and as far as possible in imitations of one (jsdom, happy-dom).

/** Two names of one option, of browsers before and after 2024. */
const VISIBLE = { visibilityProperty: true, checkVisibilityCSS: true };

/** Whether an element is laid out so that it can be seen and used. Where nothing is laid out, it is. */
export const isSeen = (element: Element): boolean =>
  !element.closest('[inert]') && ((element.checkVisibility as Element['checkVisibility'] | undefined)?.call(element, VISIBLE) ?? true);

/** What hides content until it is opened. */
const CLOSED = 'details:not([open]), [hidden="until-found"]';

/** The closed parts of the page that an element is in, the outermost first. */
function closedAround(element: Element): readonly Element[] {
  const around: Element[] = [];
  for (let at: Element | null = element.parentElement; at; at = at.parentElement)
    // What names a closed part stands outside of what is hidden.
    if (at.matches(CLOSED) && !(at.localName === 'details' && at.querySelector('summary')?.contains(element))) around.unshift(at);
  return around;
}

/** Whether an element is seen, or is once that is opened which anybody can open. */
export const isWithinReach = (element: Element): boolean => isSeen(closedAround(element)[0] ?? element);

/** Opens the closed parts of the page that an element is in, as a browser does for a search. */
export function openAround(element: Element): void {
  for (const part of closedAround(element)) {
    part.dispatchEvent(new Event('beforematch', { bubbles: true }));
    if (part.localName === 'details') part.setAttribute('open', '');
    else part.removeAttribute('hidden');
  }
}

/** The element that has the focus, within shadow roots too. */
export function activeIn(root: Document | ShadowRoot): Element | null {
  const { activeElement } = root;
  return (activeElement?.shadowRoot && activeIn(activeElement.shadowRoot)) ?? activeElement;
}

/** Whether an element, or something in it, has the focus. */
export function hasFocus(element: Element): boolean {
  const root = element.getRootNode() as Document | ShadowRoot;
  return [root.activeElement, document.activeElement].some((active) => active instanceof Element && element.contains(active));
}

/** The custom elements below a node that are not defined yet. */
export const undefinedElements = (root: Element): readonly Element[] =>
  notDefined(root).filter(({ localName }) => localName.includes('-') && !customElements.get(localName));

function notDefined(root: Element): readonly Element[] {
  try {
    return [...root.querySelectorAll(':not(:defined)')];
  } catch {
    // An imitation of a page may not know `:defined`.
    return [...root.getElementsByTagName('*')];
  }
}
