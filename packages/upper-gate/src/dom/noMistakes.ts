// In production nothing is watched; see ./mistakes.ts.

export const watchForMistakes =
  (_form: HTMLFormElement, _gate: object): (() => void) =>
  () =>
    undefined;
