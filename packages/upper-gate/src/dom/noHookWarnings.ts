// In production nothing is watched; see ./hookWarnings.ts.

export const startHookWarnings =
  (_form: HTMLFormElement, _gate: object): (() => void) =>
  () =>
    undefined;
