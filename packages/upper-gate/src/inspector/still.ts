// The page does not notice what happens in the inspector. What is done in it stays in it; and where the focus goes there and comes back,
// the page sees nobody leave a field, and nobody enter one.

/** What would bubble out of it. */
const INSIDE = 'click dblclick pointerdown pointerup mousedown mouseup keydown keyup keypress input change copy paste cut'.split(' ');
const FOCUS = ['focusin', 'focusout', 'focus', 'blur'] as const;

/** Keeps the events of an element from the page. @param root what is in it @returns undoes it */
export function keepStill(element: Element, root: ShadowRoot): () => void {
  const ended = new AbortController();
  const isOurs = (target: EventTarget | null): boolean => target === element;
  const hold = (event: FocusEvent): void => {
    if (isOurs(event.target) || isOurs(event.relatedTarget)) event.stopImmediatePropagation();
  };
  // (First of all: on the window, before it comes down.)
  for (const type of FOCUS) window.addEventListener(type, hold, { capture: true, signal: ended.signal });
  for (const type of INSIDE) root.addEventListener(type, (event) => event.stopPropagation(), { signal: ended.signal });
  return () => ended.abort();
}
