// The production build; see ./on.ts. Empty functions: bundlers drop their calls, and what they are given.

export const DEV: boolean = false;

export function devAssert(_mistake: () => string | false | undefined): void {}
export function warnOnce(_about: object, _mistakes: () => Iterable<string | false | undefined>): void {}
