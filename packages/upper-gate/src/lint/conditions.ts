// Conditions that read each other, or never hold.

import type { Found } from './finding.ts';
import { isTried, type Courses } from './courses.ts';
import { labelled, quoted } from './told.ts';
import type { Site } from './sites.ts';

/** Whether something in a part must be filled in. */
const isRequired = ({ part, inner }: Site): boolean => part.required !== undefined || inner.some(isRequired);

/** All that is wrong with conditions. */
export function* conditionFaults({ conditions }: Courses): Iterable<Found> {
  const told = new Set<string>();
  for (const course of conditions.values()) {
    const { site, held, runs, circle } = course;
    if (circle) {
      const members = [...new Set(circle)].sort().join();
      if (told.has(members)) continue;
      told.add(members);
      if (circle.length === 1)
        yield { id: 'applies-by-itself', site, what: `The condition of ${labelled(site)} reads ${labelled(site)} itself.` };
      else yield { id: 'circle', site, what: `The conditions of ${circle.map(quoted).join(', ')} read each other.` };
    } else if (held === 0 && isTried(course))
      yield {
        id: 'never-applies',
        site,
        what: `The condition of ${labelled(site)}${isRequired(site) ? ', which is required,' : ''} held for no sample.`,
        samples: runs,
      };
  }
}
