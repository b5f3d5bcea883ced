import type { Word } from 'lock-passage/words';
import type { InjectionKey } from 'vue';

/** Says what the page says beside the form, in the language of the moment. */
export const SAY: InjectionKey<(word: Word, values?: Readonly<Record<string, string>>) => string> = Symbol('say');
