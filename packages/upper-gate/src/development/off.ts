// In production nothing is checked; see ./on.ts. An empty function: bundlers drop its calls, and what they are given.

export function demand(_mistake: () => string | false | undefined): void {}
