// The ids of elements that are made for a field.

/**
 * Makes an id of texts: a prefix, a path, the value of an option. A blank in it would make several ids of it where ids are listed, as in
 * `aria-describedby`.
 */
export const idFrom = (...texts: readonly string[]): string => texts.join('-').replace(/[\s%]/g, (sign) => encodeURIComponent(sign));
