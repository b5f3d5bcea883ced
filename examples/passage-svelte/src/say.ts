import type { Word } from 'lock-passage/words';
import { getContext, setContext } from 'svelte';

/** The texts of the page around the form, in the current language. */
export type Say = (word: Word, values?: Readonly<Record<string, string>>) => string;

const KEY = Symbol('say');
export const provideSay = (say: Say): Say => setContext(KEY, say);
export const useSay = (): Say => getContext(KEY);
