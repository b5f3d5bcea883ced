// In production nothing is watched; see ./devWarnings.ts.

export const startDevWarnings =
  (_form: HTMLFormElement, _gate: object): (() => void) =>
  () =>
    undefined;
