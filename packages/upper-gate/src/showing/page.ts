// Queries on a page that work in browsers, and as far as possible in imitations of one (jsdom, happy-dom).

/**
 * Whether something is an element: of any document, so not `instanceof`. (Neither is a proxy around one, which the page refuses: see
 * `elementOf`.)
 */
export const isElement = (value: unknown): value is HTMLElement => (value as Partial<Element> | null | undefined)?.nodeType === 1;

/** What a component may hand out in place of an element. */
interface Handed {
  /** Its element, as several kits call it, and as Vue does. */
  readonly nativeElement?: unknown;
  readonly $el?: unknown;
}

/**
 * Returns the element that a ref stands for: itself, or one that a component hands out.
 *
 * @param target an element, a proxy around one, an object with `nativeElement`, an instance of a Vue component
 * @returns the element; undefined if there is none
 */
export function elementOf(target: unknown): HTMLElement | undefined {
  for (const way of WAYS)
    try {
      // (It finds an element itself; a proxy around one has it called on that, or throws.)
      const element = (way(target as Handed) as Element).closest('*');
      if (isElement(element)) return element;
    } catch {
      // Then it is not that.
    }
  return undefined;
}

const WAYS: readonly ((it: Handed) => unknown)[] = [
  (it) => it,
  (it) => it.nativeElement,
  (it) => it.$el,
  // Of several elements side by side, the first: Vue puts an empty text before them.
  ({ $el }) => ($el as Text).nodeType === 3 && ($el as Text).nextElementSibling,
];

/** Two names of one option, of browsers before and after 2024. */
const VISIBLE = { visibilityProperty: true, checkVisibilityCSS: true };

/** The element that an element is drawn in: a slot, a parent, the host of its shadow root. */
const around = (element: Element): Element | null =>
  element.assignedSlot ?? element.parentElement ?? (element.getRootNode() as Partial<ShadowRoot>).host ?? null;

/** Whether an element, or one that it is drawn in, is inert. */
const isInert = (element: Element | null): boolean => element !== null && (element.matches('[inert]') || isInert(around(element)));

/** Whether an element is laid out so that it can be seen and used. Where nothing is laid out, it is. */
export const isSeen = (element: Element): boolean =>
  !isInert(element) && ((element.checkVisibility as Element['checkVisibility'] | undefined)?.call(element, VISIBLE) ?? true);

/** What hides content until it is opened. */
const CLOSED = 'details:not([open]), [hidden="until-found"]';

/** The closed parts of the page that an element is in, the outermost first. */
function closedAround(element: Element): readonly Element[] {
  const closed: Element[] = [];
  for (let at = around(element); at; at = around(at))
    // What names a closed part stands outside of what is hidden.
    if (at.matches(CLOSED) && !(at.localName === 'details' && at.querySelector('summary')?.contains(element))) closed.unshift(at);
  return closed;
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
  return [root.activeElement, element.ownerDocument.activeElement].some((active) => isElement(active) && element.contains(active));
}

/** The custom elements below a node that are not defined yet. */
export const undefinedElements = (root: ParentNode): readonly Element[] =>
  notDefined(root).filter(({ localName }) => localName.includes('-') && !customElements.get(localName));

function notDefined(root: ParentNode): readonly Element[] {
  try {
    return [...root.querySelectorAll(':not(:defined)')];
  } catch {
    // An imitation of a page may not know `:defined`.
    return [...root.querySelectorAll('*')];
  }
}

/** How long drawing may take, in milliseconds. */
export const LAST_DRAWN = 100;
/** When it is looked at: most is drawn at once. (Not in microtasks: elements are tied in some of these.) */
const DRAWN = [0, LAST_DRAWN];

/** Tries something when the page has been drawn: until it could be done, or that has taken too long. */
export function afterDrawing(act: () => boolean): void {
  let isDone = false;
  for (const delay of DRAWN) setTimeout(() => void (isDone ||= act()), delay);
}
