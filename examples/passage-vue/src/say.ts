import type { Word } from 'lock-passage/words';
import type { InjectionKey } from 'vue';

/** The texts of the page around the form, in the current language. */
export const SAY: InjectionKey<(word: Word, values?: Readonly<Record<string, string>>) => string> = Symbol('say');
