// What a message is called by where it stands away from its field: in a summary, in the line above a form. The same for a live page
// and for one that is drawn again without script.

import { inLanguage, type Catalogue } from '../../messages/text.ts';
import { UNNAMED, type Part } from '../../schema/part.ts';

/**
 * A message away from its field: after the label of that, where it does not say it itself.
 *
 * @param names of the rows and entries around the field, the outermost first
 */
export function awayFromField(names: readonly string[], part: Part | undefined, message: string, catalogue: Catalogue | undefined): string {
  const label = part && part.label !== UNNAMED ? inLanguage(part.label, catalogue) : '';
  const own = message.toLowerCase().includes(label.toLowerCase()) ? [] : [label];
  return [...names, ...own, message].join(': ');
}
