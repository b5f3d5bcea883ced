// Fields that may have been left: what closes on the page may give the focus back, a moment later.

/** The nodes of these fields. A restart forgets them. */
export const maybeLeft = new WeakSet<object>();
