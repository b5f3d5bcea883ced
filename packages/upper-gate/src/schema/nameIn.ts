// What rows and entries are called, wherever they are spoken of.

import { inLanguage, type Catalogue } from '../messages/text.ts';
import type { Part } from './part.ts';

/**
 * The name of a part in another: a row by what a row of its list is called and its number, counted from 1; an entry of a dictionary by
 * its key.
 *
 * @returns nothing for a field of a group, whose own label is in its message
 */
export function nameIn(around: Part, key: string, catalogue: Catalogue | undefined): readonly string[] {
  const { holds } = around.traits;
  if (holds === 'rows') return [`${inLanguage(around.rowLabel, catalogue)} ${Number(key) + 1}`];
  return holds === 'entries' ? [key] : [];
}
