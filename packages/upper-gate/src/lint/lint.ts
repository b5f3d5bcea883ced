// Looks for faults in a schema: what its declaration proves, and what samples show.

import { DEV } from '#development';
import type { Catalogue } from '../messages/text.ts';
import type { ContextValue } from '../schema/context/context.ts';
import { wrongUse } from '../schema/assertUse.ts';
import { group, isGroup } from '../schema/group.ts';
import type { Node, RAW } from '../schema/node.ts';
import { nodeOf, partOf, type Part } from '../schema/part.ts';
import { piecesOf } from '../schema/pieces.ts';
import { arbitraryIn, loadGenerators, textMaker } from '../testing/samples/arbitrary.ts';
import { conditionFaults } from './conditions.ts';
import { contradictions, refusedStarts } from './contradictions.ts';
import { costs } from './cost.ts';
import { Courses } from './courses.ts';
import { toLintFinding, type Found, type LintFinding } from './finding.ts';
import { LINT_IDS } from './ids.ts';
import { poolsOf } from './pools.ts';
import { serverFaults, type ExportedTo } from './servers.ts';
import { sitesOf, type Site } from './sites.ts';
import { tryFields } from './tryFields.ts';
import { tryForm } from './tryForm.ts';
import { words } from './words.ts';

/** The options of `lint`. */
export interface LintOptions<R = unknown> {
  /**
   * What is meant to be as it is: the reason, by the path and the id: `{ 'berth same-label': 'both are called Berth on the paper form' }`.
   * For the whole, the id alone.
   */
  readonly accept?: Readonly<Record<string, string>>;
  /** Facts from outside that the schema reads. If it is given, `[]` too, what the schema reads beyond that is found. */
  readonly context?: readonly ContextValue[];
  /** The catalogues in use: what they lack is found. */
  readonly catalogues?: readonly Catalogue[];
  /** The initial values of the form, which are validated, too. */
  readonly initial?: unknown;
  /** Values of the whole schema, as forms hold them, that rules are tried with beside the samples. */
  readonly values?: readonly R[];
  /** What the schema is exported to: what cannot go there is found. */
  readonly exportedTo?: readonly ExportedTo[];
  /** Another seed, other samples. Default 1. */
  readonly seed?: number;
}

/** How many values of the whole schema are drawn. */
const DRAWN = 24;

/** Adds what is in values to what is known at the paths of a schema. */
function collect(part: Part, raw: unknown, sites: readonly Site[], found: Map<string, unknown[]>): void {
  const visit = (of: Part, value: unknown, path: string): void => {
    (found.get(path) ?? found.set(path, []).get(path)!).push(value);
    for (const piece of piecesOf(of, value) ?? []) {
      const around = sites.find((site) => site.path === path && site.part === of);
      const inner = around?.inner.find((site) => site.part === piece.part) ?? around?.inner[0];
      if (inner) visit(inner.part, piece.raw, inner.path);
    }
  };
  visit(part, raw, '');
}

/** Takes out what is accepted. */
function accepted(findings: readonly LintFinding[], accept: Readonly<Record<string, string>>, root: Site): readonly LintFinding[] {
  const keyOf = ({ path, id }: LintFinding): string => (path === '' ? id : `${path} ${id}`);
  for (const [key, reason] of Object.entries(accept))
    if (typeof (reason as unknown) !== 'string' || reason.trim() === '')
      throw wrongUse(DEV && `lint() accepts "${key}" for no reason. Give it as a text: { accept: { '${key}': 'why it is right' } }.`);
  const found = new Set(findings.map(keyOf));
  const needless = Object.keys(accept).filter((key) => !found.has(key));
  return [
    ...findings.filter((finding) => !Object.hasOwn(accept, keyOf(finding))),
    ...needless.map((key) => {
      const id = key.split(' ').at(-1)!;
      return toLintFinding({
        id: 'needless-acceptance',
        site: root,
        what: Object.hasOwn(LINT_IDS, id)
          ? `"${key}" accepts nothing: there is no such finding.`
          : `"${key}" accepts nothing: "${id}" is no id of lint.`,
      });
    }),
  ];
}

/**
 * Looks for faults in a schema: rules that contradict each other, never fail or never pass, messages that state another number than
 * their rule, patterns that can hang, conditions in circles, and more (docs/lint.md lists all). What the declaration does not prove
 * is tried on samples, the same ones for the same seed; functions of the schema are called with these, async ones are not. It needs
 * `fast-check`, for texts that match patterns.
 *
 * @param schema the schema, or a part of one
 * @param options what is accepted, and what the schema is used with: context, catalogues, initial values
 * @returns the findings: errors first, each group in the order of the schema. None: an empty array
 * @throws TypeError for what is no schema, and for an acceptance without a reason; Error where `fast-check` is not installed
 *
 * @example
 * for (const { path, id, what } of await lint(passage)) console.log(`${path} ${id}: ${what}`);
 * await lint(passage, { accept: { 'berth same-label': 'both are called Berth on the paper form' } });
 */
export async function lint<N extends Node>(schema: N, options: LintOptions<N[typeof RAW]> = {}): Promise<readonly LintFinding[]> {
  const { accept = {}, context, catalogues = [], initial, values = [], exportedTo = [], seed = 1 } = options;
  const facts = context ?? [];
  const given = partOf(schema);
  // A form is a group: what is none stands in one, under no name that anybody sees.
  const whole = isGroup(given) ? given : partOf(group({ value: schema }));
  const sites = sitesOf(whole);
  const fc = await loadGenerators('lint');
  const make = textMaker(fc, seed);
  const raws: readonly unknown[] = isGroup(given) ? values : values.map((value) => ({ value }));
  const known = new Map<string, unknown[]>();
  for (const raw of raws) collect(whole, raw, sites, known);
  const pools = poolsOf(make, known);
  const drawn = fc.sample(arbitraryIn(whole, fc, make), { seed, numRuns: DRAWN });
  const courses = new Courses(sites, facts, catalogues[0]);
  tryFields(sites, pools, courses);
  tryForm(nodeOf(whole), sites, courses, pools, [...raws, ...drawn]);
  const found: readonly Found[] = [
    ...contradictions(sites, courses, pools, facts),
    ...refusedStarts(nodeOf(whole), sites, facts, undefined),
    ...(initial === undefined ? [] : refusedStarts(nodeOf(whole), sites, facts, isGroup(given) ? initial : { value: initial })),
    ...words(sites, courses, catalogues),
    ...costs(sites, courses, make),
    ...conditionFaults(courses),
    ...serverFaults(sites, { told: courses.told, lacking: context ? courses.lacking : new Map<never, never>() }, exportedTo),
  ];
  const order = new Map(sites.map((site, i) => [site, i]));
  const sorted = [...found].sort((a, b) => (order.get(a.site) ?? 0) - (order.get(b.site) ?? 0)).map(toLintFinding);
  const findings = isGroup(given) ? sorted : sorted.map((finding) => ({ ...finding, path: finding.path.replace(/^value\.?/, '') }));
  const left = accepted(findings, accept, sites[0]!);
  return [...left.filter(({ severity }) => severity === 'error'), ...left.filter(({ severity }) => severity === 'warning')];
}
