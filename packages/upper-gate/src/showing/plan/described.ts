// Which elements carry the descriptions of a field, and where a place for its messages is made if the page has none.

/** Questions about the elements of a page, of a browser or of a parser. */
export interface PageElements<E> {
  /** The nearest group around an element: a fieldset, or an element with such a role. */
  groupAround(element: E): E | null | undefined;
  /** All controls in an element. */
  controlsIn(element: E): readonly E[];
  nameOf(control: E): string | undefined;
  /** The label that an element is in. */
  labelAround(element: E): E | null | undefined;
  /** The legend of a fieldset. */
  legendOf(fieldset: E): E | null | undefined;
  isFieldset(element: E): boolean;
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

/** Where a place is made: after an element, or at the start of one. */
export type NewPlace<E> = { readonly after: E } | { readonly in: E };

/**
 * Where a place for the messages of a field is made: after its last control, or after the legend of the fieldset that carries its
 * descriptions.
 */
export function newPlace<E>(controls: readonly E[], described: readonly E[], page: PageElements<E>): NewPlace<E> {
  const [around] = described as readonly [E];
  const last = controls.at(-1)!;
  if (!page.isFieldset(around)) return { after: page.labelAround(last) ?? last };
  const legend = page.legendOf(around);
  return legend ? { after: legend } : { in: around };
}
