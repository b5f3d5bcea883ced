// Which elements carry the descriptions of a field.

/** What is asked of the elements of a page, whether they are a browser's or a parser's. */
export interface PageElements<E> {
  /** The nearest group around an element: a fieldset, or an element with such a role. */
  groupAround(element: E): E | null | undefined;
  /** All controls in an element. */
  controlsIn(element: E): readonly E[];
  nameOf(control: E): string | undefined;
}

/**
 * The elements that carry the descriptions of a field: its control; of radios or boxes that are one field together, what is
 * around them, or each of them where that holds other fields too.
 */
export function describedElements<E>(controls: readonly E[], areTogether: boolean, page: PageElements<E>): readonly E[] {
  const [first] = controls;
  if (first === undefined || !areTogether) return controls.slice(0, 1);
  const around = page.groupAround(first);
  if (!around) return controls;
  const inside = page.controlsIn(around);
  const areAlone = inside.every((control) => controls.includes(control) || page.nameOf(control) === page.nameOf(first));
  return areAlone && controls.every((control) => inside.includes(control)) ? [around] : controls;
}
