// How a field is connected to where it is on a page. Only bindings make connections; a gate keeps them.

/** What is needed of an element, to tell where it stands. */
export interface Placed {
  compareDocumentPosition(other: unknown): number;
  getRootNode?(): unknown;
}

/** How to move the focus to a field. `element` places it in document order. */
export interface Connection {
  /**
   * Moves the focus there. If `opens` is true, it opens closed parts of the page around it. Returns `false` if the focus could
   * not move.
   */
  readonly focus?: (opens: boolean) => unknown;
  readonly element?: Placed | undefined;
  /**
   * Shows the field, or a group around it: opens a tab or a dialog. Returns `false` if there was nothing to open, or a promise if
   * the page has to load it. If that fails, the errors there are shown above the form.
   */
  readonly show?: () => unknown;
}
