// English, as a catalogue like those of the other languages. It is built in: to be given only where English is chosen by name.

import type { Code, Wording } from './codes.ts';
import * as texts from './english.ts';
import type { Catalogue } from './text.ts';

export const en: Required<Pick<Catalogue, Code | Wording | 'locale'>> = texts;
