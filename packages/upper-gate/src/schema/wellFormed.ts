// What a text is made of.

const SURROGATE = /\p{Surrogate}/u;

/** Whether a text has no NUL and no half of a surrogate pair. (An expression takes ten times as long as what newer engines offer.) */
export const isWellFormed = (text: string): boolean =>
  !text.includes('\0') && (text.isWellFormed ? text.isWellFormed() : !SURROGATE.test(text));
