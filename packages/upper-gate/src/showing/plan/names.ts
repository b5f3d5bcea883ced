// What a message is called by where it stands away from its field: in a summary, in the line above a form. The same for a live page
// and for one that is drawn again without script.

import { inLanguage, type Catalogue } from '../../messages/text.ts';
import type { Part } from '../../schema/part.ts';

/**
 * The name of a part in another: a row by the label of its list and its number, counted from 1; an entry of a dictionary by its key.
 *
 * @returns nothing for a field of a group, whose own label is in its message
 */
export function nameIn(around: Part, key: string, catalogue: Catalogue | undefined): readonly string[] {
  const { holds } = around.traits;
  if (holds === 'rows') return [`${inLanguage(around.label, catalogue)} ${Number(key) + 1}`];
  return holds === 'entries' ? [key] : [];
}

/** A message away from its field. @param names of the rows and entries around the field, the outermost first */
export const awayFromField = (names: readonly string[], message: string): string => [...names, message].join(': ');
