// What pages are asked, so that the answer is right in a browser and fair in what only imitates one (jsdom, happy-dom).

/** Whether an element is laid out so that it can be seen. Where nothing is laid out, it is. */
export const isSeen = (element: Element): boolean =>
  (element.checkVisibility as Element['checkVisibility'] | undefined)?.call(element) ?? true;

/** Whether an element, or something in it, has the focus. */
export function hasFocus(element: Element): boolean {
  const root = element.getRootNode() as Document | ShadowRoot;
  return [root.activeElement, document.activeElement].some((active) => active instanceof Element && element.contains(active));
}

/** The custom elements below a node that are not defined yet. */
export const undefinedElements = (root: Element): readonly Element[] =>
  [...root.getElementsByTagName('*')].filter(({ localName }) => localName.includes('-') && !customElements.get(localName));
