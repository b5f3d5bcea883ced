// What stands above a list of all errors. The same for a live page and for one that is drawn again without script.

import { summary, unchecked } from '../../messages/english.ts';
import { formatText, type Catalogue } from '../../messages/text.ts';
import type { Finding } from '../../schema/finding.ts';

/** The heading of a list: how many of its errors there are to mend; where there are none, that something could not be checked. */
export function headingOf(errors: readonly Partial<Pick<Finding, 'code'>>[], catalogue: Catalogue | undefined): string {
  const count = errors.filter(({ code }) => code !== 'unanswered').length;
  const params = { label: '', locale: catalogue?.locale ?? 'en', count };
  return count > 0
    ? formatText(catalogue?.summary ?? summary, params, catalogue)
    : formatText(catalogue?.unchecked ?? unchecked, params, catalogue);
}
