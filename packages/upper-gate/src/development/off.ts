// The production build; see ./on.ts. Empty functions: bundlers drop their calls, and what they are given.

import type { Explained } from './explain.ts';

export const DEV: boolean = false;

export function devAssert(_mistake: () => string | false | undefined): void {}
export function warnOnce(_about: object, _mistakes: () => Iterable<Explained | false | undefined>): void {}
