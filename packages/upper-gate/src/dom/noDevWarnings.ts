// In production nothing is watched; see ./mistakes.ts.

export const startDevWarnings =
  (_form: HTMLFormElement, _gate: object): (() => void) =>
  () =>
    undefined;
