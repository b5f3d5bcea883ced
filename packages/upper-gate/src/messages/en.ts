/**
 * English as a catalogue, for applications that choose the language by name. English is built in: you need this module only
 * for that. `upper-gate/messages/fr`, `de`, `es`, `ja` and `ar` have the same shape.
 *
 * @module upper-gate/messages/en
 */

import type { Code, Wording } from './codes.ts';
import * as texts from './english.ts';
import type { Catalogue } from './text.ts';

/** The English texts, as a catalogue. */
export const en: Required<Pick<Catalogue, Code | Wording | 'locale'>> = texts;
