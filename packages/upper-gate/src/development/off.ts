// The production build; see ./on.ts. Empty functions: bundlers drop their calls, and what they are given. (Texts are dropped
// where they are not wanted; what words them must weigh nothing.)

import type { Explained, Trouble } from './explain.ts';
import type { Place } from './places.ts';

export const DEV: boolean = false;

export function devAssert(_mistake: () => string | false | undefined): void {}
export function warnOnce(_about: object, _mistakes: () => Iterable<Explained | false | undefined>): void {}
export const got = (_value: unknown): string => '';
export function devObject(_value: unknown, _what: string): void {}
export const told = (_error: unknown): string => '';
export const fieldsBelow = (_node: object): readonly string[] => [];
export const explain = (_trouble: Trouble, text: string): Explained => text as Explained;
export const explained = (text: string): string => text;
export const declared = (): object | undefined => undefined;
export const placeOf = (_what: object): Place | undefined => undefined;
export function startRecording(): void {}
