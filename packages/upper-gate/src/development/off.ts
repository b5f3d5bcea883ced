// In production nothing is checked; see ./on.ts. Empty functions: bundlers drop their calls, and what they are given.

export function assert(_mistake: () => string | false | undefined): void {}
export function warnOnce(_about: object, _mistakes: () => Iterable<string | false | undefined>): void {}
