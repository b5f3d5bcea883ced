// What may take long, ask too often, or cannot be tested.

import { patternRisk } from '../rules/patternRisk.ts';
import type { MakeTexts } from '../testing/samples/candidates.ts';
import { isField } from '../schema/field.ts';
import type { Found } from './finding.ts';
import type { Courses } from './courses.ts';
import { called, labelled, quoted } from './told.ts';
import type { Site } from './sites.ts';

/** An expression of a whole text, as HTML's `pattern` is. */
const WHOLE = /^\^([\s\S]*)\$$/;

function compiled(source: string, flags: string): RegExp | undefined {
  try {
    return new RegExp(source, flags);
  } catch {
    return undefined;
  }
}

/** What HTML makes of an expression that it does not read as it is meant; undefined if it does. */
function misreading(source: string, texts: readonly string[]): string | undefined {
  const meant = compiled(source, '');
  const read = compiled(source, 'v');
  if (!meant) return undefined;
  if (!read) return 'with the flag v it is no expression, so browsers ignore it';
  const other = texts.find((text) => meant.test(text) !== read.test(text));
  return other === undefined ? undefined : `with the flag v it ${read.test(other) ? 'matches' : 'does not match'} ${quoted(other)}`;
}

/** Patterns on a field. */
function* patterns(site: Site, make: MakeTexts): Iterable<Found> {
  for (const { rule } of site.rules) {
    const { pattern, flags } = rule.params;
    if (rule.name !== 'pattern' || rule.definition || typeof pattern !== 'string') continue;
    const on = { site, rule: rule.name, declared: rule };
    const risk = patternRisk(pattern, String(flags));
    if (risk !== undefined)
      yield { id: 'hanging-pattern', ...on, what: `The pattern /${pattern}/ of ${labelled(site)} can hang: ${risk}.` };
    // (Others do not go to HTML.)
    if (flags !== '' || !WHOLE.test(pattern)) continue;
    const expression = compiled(pattern, '');
    const wrong = misreading(pattern, expression ? [...make(expression), '😀', 'a', 'A', '-', '&', '1'] : []);
    if (wrong !== undefined)
      yield { id: 'html-pattern', ...on, what: `HTML reads the pattern /${pattern}/ of ${labelled(site)} in another way: ${wrong}.` };
  }
}

/** Requests that are sent while the user types. */
function* requests({ rules, part, ...site }: Site): Iterable<Found> {
  // (A choice is made at once.)
  if (!isField(part) || part.traits.holds !== 'value') return;
  for (const { rule } of rules) {
    if (!rule.async || (rule.on ?? 'change') !== 'change' || rule.name !== 'asyncCheck') continue;
    const on = { site: { ...site, rules, part }, rule: rule.name, declared: rule };
    if (rule.async.debounce === 0)
      yield { id: 'no-pause', ...on, what: `${called(rule)} on ${labelled(on.site)} runs on every change, without a pause.` };
    // (What reads another kind than texts is quick to refuse most.)
    if (part.traits.measures === 'text' && !rules.some((other) => other.rule.test ?? other.rule.moving))
      yield {
        id: 'no-quick-rule',
        ...on,
        what: `${called(rule)} on ${labelled(on.site)} runs on change, with no rule before it that needs no answer.`,
      };
  }
}

/** All that costs too much. */
export function* costs(sites: readonly Site[], { rules, conditions }: Courses, make: MakeTexts): Iterable<Found> {
  for (const site of sites) {
    yield* patterns(site, make);
    yield* requests(site);
  }
  for (const { placed, readsClock, isSquare, passes, fails } of rules) {
    const { rule, site } = placed;
    const on = { site, rule: rule.name, declared: rule, samples: passes + fails };
    if (readsClock) yield { id: 'reads-clock', ...on, what: `${called(rule)} on ${labelled(site)} reads the clock of the system.` };
    if (isSquare)
      yield { id: 'square-cost', ...on, what: `${called(rule)} on ${labelled(site)} reads all rows of the list, for each row.` };
  }
  for (const { site, readsClock, runs } of conditions.values())
    if (readsClock)
      yield { id: 'reads-clock', site, what: `The condition of ${labelled(site)} reads the clock of the system.`, samples: runs };
}
