// Rules that contradict each other, or themselves; options, defaults and limits that no rule lets pass.

import { makeGate } from '../gate/createGate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import { SUBMIT } from '../evaluate/stage.ts';
import { readValue } from '../evaluate/field.ts';
import { severityOf } from '../evaluate/finding.ts';
import type { ContextValue } from '../schema/context/context.ts';
import { swapSource, type ContextSource } from '../schema/context/running.ts';
import { originOf } from '../json-schema/conditions.ts';
import { originOfRule } from '../json-schema/keywords/documentRule.ts';
import { isField, isUnreadable, type FieldPart } from '../schema/field.ts';
import { isList } from '../schema/list/list.ts';
import type { Node } from '../schema/node.ts';
import { isBlocking, type AnyRule, type RunnableRule } from '../schema/rule.ts';
import { blocks } from '../schema/severity.ts';
import { findIn } from '../testing/samples/arbitrary.ts';
import type { Found } from './finding.ts';
import { common, implies, isNothing, spanOf, whyNeverFails } from './limits.ts';
import { isTried, type Courses, type RuleCourse } from './courses.ts';
import { noAnswer, NOW, STILL } from './now.ts';
import type { Pools } from './pools.ts';
import { called, labelled, quoted, written } from './told.ts';
import { sitePath, type PlacedRule, type Site } from './sites.ts';

/** The rules on a part that count always, and block. */
const blocking = ({ rules }: Site): readonly AnyRule[] => rules.map(({ rule }) => rule).filter(isBlocking);

/** Whether a rule of a group on a field reads nothing but the value: its params say all. */
const readsValueOnly = ({ test, author, definition, moving, params }: AnyRule): boolean =>
  test !== undefined && !(author ?? definition ?? moving) && params['other'] === undefined;

/**
 * The rules of a field that have an error for a value, whatever else the form holds.
 *
 * @returns nothing where what they read was not given
 */
function refusing(
  { part, rules }: FieldSite,
  raw: unknown,
  context: readonly ContextValue[],
): readonly (AnyRule | undefined)[] | undefined {
  const source: ContextSource = { context };
  const before = swapSource(source);
  try {
    const found = findIn(part, raw);
    if (source.lacking !== undefined || found.some(({ verdict }) => verdict.code === 'crashed')) return undefined;
    const own = found
      .filter(({ rule, verdict }) => blocks({ severity: severityOf(rule, verdict) }))
      .map(({ rule }) => rule as AnyRule | undefined);
    const value = readValue(part, raw, { fault: () => undefined });
    if (value === undefined || isUnreadable(value)) return own;
    const ofGroups = rules.filter(({ rule, by }) => by.part !== part && isBlocking(rule) && readsValueOnly(rule));
    return [
      ...own,
      ...ofGroups.map(({ rule }) => rule).filter((rule) => (rule as RunnableRule).test!(value, undefined, NOW, undefined) !== undefined),
    ];
  } finally {
    swapSource(before);
  }
}

/** A field, at its place. */
interface FieldSite extends Site {
  readonly part: FieldPart;
}
const isFieldSite = (site: Site): site is FieldSite => isField(site.part);

/** The options that a field offers, or that a rule leaves, as controls hold them. */
function optionsOf({ part, rules }: Site): readonly string[] | undefined {
  const isOne = part.traits.holds === 'option' || part.traits.holds === 'options';
  if (isOne) return part.options?.map(({ value }) => value);
  const lists = rules.filter(({ rule }) => rule.name === 'oneOf' && !rule.definition && !rule.moving && isBlocking(rule));
  const [first] = lists;
  return first && ((first.rule.params['options'] ?? []) as readonly unknown[]).map(String);
}

/** Limits without a value, options that are refused. */
function* refusedValues(site: Site, context: readonly ContextValue[]): Iterable<Found> {
  const { part } = site;
  const rules = blocking(site);
  for (const name of ['length', 'range'] as const) {
    const limited = rules.filter((rule) => spanOf(rule, name) !== undefined && (name === 'range' || rule.params['count'] === undefined));
    const isWhole = name === 'length' || part.kind === 'integer';
    if (limited.length > 0 && isNothing(common(limited.map((rule) => spanOf(rule, name)!)), isWhole)) {
      yield {
        id: 'no-value',
        site,
        what: `No ${name === 'length' ? 'length' : isWhole ? 'whole number' : 'value'} is within the limits of ${limited.map(written).join(' and ')}.`,
        rule: name,
        declared: limited.at(-1)!,
      };
      return;
    }
  }
  for (const rule of rules) {
    const { other } = rule.params;
    const against = { sameAs: ['differsFrom', 'after', 'before'], after: ['before'] }[rule.name as 'after'] as
      readonly string[] | undefined;
    const contrary = rules.find(({ name, params }) => against?.includes(name) && params['other'] === other);
    const isLoose = rule.params['orSame'] === true && contrary?.params['orSame'] === true;
    if (contrary && !isLoose && !(rule.name === 'sameAs' && contrary.params['orSame'] === true)) {
      yield {
        id: 'no-value',
        site,
        what: `${written(rule)} and ${written(contrary)} contradict each other.`,
        rule: contrary.name,
        declared: contrary,
      };
      return;
    }
  }
  const options = optionsOf(site);
  if (!isFieldSite(site) || !options) return;
  const isMany = part.traits.holds === 'options';
  const refused = options.flatMap((option) => {
    const by = refusing(site, isMany ? [option] : option, context);
    // (How many may be chosen is no matter of one of them.)
    const named = by?.filter((rule) => !(isMany && rule?.name === 'length'));
    return named && named.length > 0 ? [{ option, rule: named[0] }] : [];
  });
  const [first] = refused;
  if (first && refused.length === options.length)
    yield {
      id: 'no-value',
      site,
      what: `None of the ${options.length} options of ${labelled(site)} passes its rules (${[...new Set(refused.map(({ rule }) => (rule ? written(rule) : 'the kind of the field')))].join(', ')}).`,
      ...(first.rule && { rule: first.rule.name }),
      declared: first.rule,
    };
  else
    for (const { option, rule } of refused)
      yield {
        id: 'refused-option',
        site,
        what: `The option ${quoted(option)} is refused by ${rule ? written(rule) : 'the kind of the field'}.`,
        ...(rule && { rule: rule.name }),
        declared: rule,
      };
}

/** Of a field whose built-in rules leave no value that was tried. */
function* refusedSamples(site: Site, pools: Pools, context: readonly ContextValue[]): Iterable<Found> {
  if (!isFieldSite(site) || site.part.traits.holds !== 'value') return;
  const { part } = site;
  if (part.ruleList.some((rule) => rule.author ?? rule.definition)) return;
  const tried = pools.of(site).filter((raw) => raw !== part.emptyRaw);
  const shapes = blocking(site).filter((rule) => rule.test && (part.sync.includes(rule) || readsValueOnly(rule)));
  if (shapes.length < 2 || tried.some((raw) => refusing(site, raw, context)?.length === 0)) return;
  yield {
    id: 'no-value',
    site,
    what: `No value of ${labelled(site)} passes ${shapes.map(written).join(' and ')} together.`,
    samples: tried.length,
    declared: shapes.at(-1),
  };
}

/** Whether a function of the author decides what a rule finds: of all others, the params say what passes and fails. */
const isAuthored = (rule: AnyRule): boolean =>
  (rule.author !== undefined || rule.definition !== undefined) &&
  !(originOfRule(rule) ?? originOf(rule) ?? (rule.author && originOf(rule.author)));

/** Rules that never pass, never fail, or that another one covers. */
function* idleRules(site: Site, courses: ReadonlyMap<PlacedRule, RuleCourse>): Iterable<Found> {
  const { part, rules } = site;
  const told = new Set<AnyRule>();
  for (const placed of rules) {
    const { rule } = placed;
    const on = { site, rule: rule.name, declared: rule };
    const why = whyNeverFails(rule, part.traits.json === 'string');
    if (why !== undefined) {
      told.add(rule);
      yield { id: 'never-fails', ...on, what: `On ${labelled(site)}, ${why}.` };
      continue;
    }
    const cover = rules.find(
      (other) =>
        other.rule !== rule &&
        !told.has(other.rule) &&
        implies(other.rule, rule) &&
        !(implies(rule, other.rule) && rules.indexOf(other) > rules.indexOf(placed)),
    );
    if (cover) {
      told.add(rule);
      yield { id: 'covered-rule', ...on, what: `On ${labelled(site)}, ${written(rule)} is covered by ${written(cover.rule)}.` };
      continue;
    }
    const course = courses.get(placed);
    if (!course || rule.async || !isAuthored(rule)) continue;
    const { passes, fails, thrown } = course;
    const samples = passes + fails;
    if (thrown)
      yield {
        id: 'throws',
        ...on,
        what: `${called(rule)} on ${labelled(site)} throws for ${quoted(thrown.raw)}: ${quoted(String(thrown.error))}.`,
        samples: samples + 1,
      };
    if (!isTried(course)) continue;
    if (fails === 0) yield { id: 'never-fails', ...on, what: `${called(rule)} on ${labelled(site)} passed on every sample.`, samples };
    if (passes === 0 && isBlocking(rule) && !rule.requires)
      yield { id: 'never-passes', ...on, what: `${called(rule)} on ${labelled(site)} failed on every sample.`, samples };
  }
}

/** A step that does not hit its own limits. */
function* offStep(site: Site, context: readonly ContextValue[]): Iterable<Found> {
  if (!isFieldSite(site)) return;
  const { part, rules } = site;
  for (const { rule } of rules) {
    if (rule.name !== 'range' || rule.definition || rule.moving) continue;
    for (const name of ['min', 'max'] as const) {
      const limit = rule.params[name];
      if ((typeof limit !== 'number' && typeof limit !== 'string') || limit === 'today') continue;
      const found = refusing(site, part.write ? part.write(limit, 'en') : String(limit), context);
      const isOff = found?.some((by) => by && (by.name === 'step' || by === rule));
      const step = found?.find((by) => by?.name === 'step') ?? rule;
      if (isOff)
        yield {
          id: 'limit-off-step',
          site,
          what: `${name} ${quoted(limit)} of ${labelled(site)} is on no step of ${written(step)}.`,
          rule: step.name,
          declared: step,
        };
    }
  }
}

/** Defaults, and initial values, that their own rules refuse. */
export function* refusedStarts(schema: Node, sites: readonly Site[], context: readonly ContextValue[], initial: unknown): Iterable<Found> {
  const gate = makeGate(schema, { context, initial: initial, clock: STILL, onFault: () => undefined }, noAnswer);
  const { store } = internalsOf(gate);
  // (A row has its defaults once it is there.)
  store.root.forEach((node: BaseNode) => isList(node.part) && initial === undefined && gate.list(node.path as never).add());
  store.rerun(store.root, SUBMIT);
  const told = new Set<Site>();
  const found: Found[] = [];
  store.root.forEach((node: BaseNode) => {
    const isDefault = node.part.settings.default !== undefined;
    if (!node.applies || !(isDefault || initial !== undefined)) return;
    const path = sitePath(node);
    const site = sites.find((each) => each.path === path && each.part === node.part);
    const error = node.findings.find((finding) => blocks(finding) && finding.code !== 'valueMissing' && finding.code !== 'unanswered');
    if (!site || !error || told.has(site)) return;
    told.add(site);
    found.push({
      id: isDefault && initial === undefined ? 'refused-default' : 'refused-initial',
      site,
      what: `${quoted(node.part.traits.hasParts ? undefined : node.raw)} is refused at the start: ${quoted(error.message)}.`,
    });
  });
  gate.dispose();
  yield* found;
}

/** All contradictions. */
export function* contradictions(
  sites: readonly Site[],
  { rules }: Courses,
  pools: Pools,
  context: readonly ContextValue[],
): Iterable<Found> {
  const courses = new Map(rules.map((course) => [course.placed, course]));
  for (const site of sites) {
    const proven = [...refusedValues(site, context)];
    yield* proven;
    if (!proven.some(({ id }) => id === 'no-value')) {
      const seen = [...refusedSamples(site, pools, context)];
      yield* seen;
      yield* idleRules(site, courses);
    }
    yield* offStep(site, context);
  }
}
