// Runs the rules and conditions that read more than their own value, in a live form: each edit runs what reads it. First all fields
// are tried one by one; then, for each rule and condition of which a side has not been seen, what it has read, with the values that its
// function mentions.

import { SUBMIT } from '../evaluate/stage.ts';
import { makeGate } from '../gate/createGate.ts';
import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import type { FormStore } from '../gate/store.ts';
import type { ContextToken } from '../schema/context/context.ts';
import { isField } from '../schema/field.ts';
import type { Readable, TracedRule, Tracer } from '../schema/kit.ts';
import { isList } from '../schema/list/list.ts';
import type { Node } from '../schema/node.ts';
import type { AnyRule, AuthorFunction } from '../schema/rule.ts';
import type { Verdict } from '../schema/verdict.ts';
import { limitsOf } from '../testing/samples/candidates.ts';
import { APPLIES, awaitedIn, whyUnvalued } from '../trace/reasons.ts';
import type { ConditionCourse, Courses, RuleCourse } from './courses.ts';
import { noAnswer, STILL } from './now.ts';
import { examplesIn, type Pools } from './pools.ts';
import { sitePath, type Site } from './sites.ts';

/** How much is tried. */
const MOST = {
  /** Values of one field; and in how many values of the whole. */
  values: 60,
  bases: 3,
  /** Edits in all, when the fields are tried one by one. */
  edits: 4000,
  /** Of one search: combinations of values in one value of the whole, and of these; values that messages give as examples. */
  combinations: 240,
  searched: 4,
  examples: 40,
  /** Of all searches: edits, each counted with the size of what it changes. */
  work: 400_000,
} as const;
/** So many rows show whether a rule on a row reads them all. */
const ROWS = 4;
/** How many fields beside its own a rule is tried with. */
const FIELDS = 3;
/** Shorter texts are in messages by chance. */
const SHORTEST = 4;

const noop = (): void => undefined;
/** A tracer that does nothing, for what is of no interest. */
const IDLE: Tracer = {
  edited: noop,
  rowChanged: noop,
  left: noop,
  submitted: noop,
  reran: noop,
  restarted: noop,
  ranOwn: noop,
  ranAll: noop,
  ran: noop,
  came: noop,
  heldBack: noop,
  cameLate: noop,
  learnt: noop,
  focused: noop,
  announced: noop,
  faulted: noop,
};

type Course = RuleCourse | ConditionCourse;

const isNode = (read: Readable): read is Readable & BaseNode => 'part' in read;
/** Rules that report in another way than by what they return are not counted. */
const isCounted = ({ name, definition }: AnyRule): boolean => name !== 'noDuplicates' || definition !== undefined;

/** What a search looks for. */
interface Goal {
  readonly course: Course;
  /** The part that the rule is on; of a condition, none. */
  readonly own: Site | undefined;
  /** What has to be there. */
  readonly anchor: Site;
  readonly functions: readonly AuthorFunction[];
  isReached(): boolean;
}

class FormTrial {
  readonly #sites: readonly Site[];
  readonly #byPath = new Map<string, Site[]>();
  readonly #siteOf = new WeakMap<BaseNode, Site | undefined>();
  readonly #courses: Courses;
  readonly #pools: Pools;
  readonly #gate: AnyGate;
  readonly #store: FormStore;
  readonly #reads = new Map<Course, Set<Site>>();
  /** How many things each has read when it ran last. */
  readonly #depths = new Map<Course, number>();
  /** The nodes whose conditions have run since the last edit. */
  readonly #conditional = new Set<BaseNode>();
  #thrown: { readonly error: unknown; readonly rule: string } | undefined;
  #edits = 0;
  #work = 0;

  constructor(schema: Node, sites: readonly Site[], courses: Courses, pools: Pools) {
    this.#sites = sites;
    this.#courses = courses;
    this.#pools = pools;
    for (const site of sites) this.#byPath.set(site.path, [...(this.#byPath.get(site.path) ?? []), site]);
    const { context, catalogue: messages } = courses;
    this.#gate = makeGate(schema, { context, messages, clock: STILL, onFault: noop }, noAnswer);
    const { store } = internalsOf(this.#gate);
    this.#store = store;
    const readContext = store.readContext.bind(store);
    store.readContext = (token, by) => {
      courses.knows(token as ContextToken, undefined);
      return readContext(token, by);
    };
    store.tracer = {
      ...IDLE,
      ranOwn: () => void courses.clock.take(),
      ran: (node, rule, reads, found) => {
        this.#ran(node as BaseNode, rule, reads, found);
        courses.clock.take();
      },
      faulted: (_, rule, error) => {
        this.#thrown = { error, rule };
      },
    };
  }

  /** @param bases values of the whole */
  run(bases: readonly unknown[]): void {
    for (const base of bases) this.#begin(base);
    for (const base of bases.slice(0, MOST.bases)) this.#tryEach(withRows(base));
    for (const course of this.#courses.rules) {
      const { rule, site, by } = course.placed;
      const isOwn = isField(site.part) && by === site;
      if (rule.async || isOwn || !isCounted(rule)) continue;
      const functions = rule.author ? [rule.author] : [];
      this.#search({ course, own: site, anchor: site, functions, isReached: () => course.passes > 0 && course.fails > 0 }, bases);
    }
    for (const course of this.#courses.conditions.values()) {
      const { site } = course;
      const functions = site.conditions.map(({ when }) => when);
      this.#search({ course, own: undefined, anchor: site.around ?? site, functions, isReached: () => course.held > 0 }, bases);
    }
    this.#gate.dispose();
  }

  /** A rule or condition has run, or would have. */
  #ran(node: BaseNode, rule: TracedRule, reads: readonly Readable[], found: readonly Verdict[] | undefined): void {
    const site = this.#siteAt(node);
    const courses = this.#courses;
    if (rule.name === APPLIES && !('author' in rule)) {
      const course = site && courses.conditions.get(site);
      if (!course) return;
      course.readsClock ||= courses.clock.take();
      this.#noteReads(course, reads);
      this.#conditional.add(node);
      return;
    }
    const course = courses.of(rule as AnyRule, site);
    if (!course || !isCounted(rule as AnyRule)) return;
    if (reads.some((read) => 'isKnown' in read && read.isKnown === false))
      for (const paths of courses.lacking.values()) paths.add(site!.path);
    this.#noteReads(course, reads);
    course.isSquare ||= readsAllRows(node, reads);
    const thrown = this.#thrown;
    this.#thrown = undefined;
    if (thrown?.rule === rule.name) course.thrown ??= { error: thrown.error, raw: node.raw };
    // (That it requires a value is seen where there is one, too.)
    else if (node.liveRules?.some((live) => live.rule === rule && live.requires)) course.fails += 1;
    // (Without a value of its own, or of what it reads, it has not run.)
    else if (found && (found.length > 0 || (whyUnvalued(node, rule) ?? awaitedIn(reads)) === undefined)) courses.note(course, found);
  }

  #siteAt(node: BaseNode): Site | undefined {
    if (this.#siteOf.has(node)) return this.#siteOf.get(node);
    const at = this.#byPath.get(sitePath(node));
    const site = at?.find(({ part }) => part === node.part) ?? at?.find(({ part }) => part.kind === node.part.kind);
    this.#siteOf.set(node, site);
    return site;
  }

  #noteReads(course: Course, reads: readonly Readable[]): void {
    const known = this.#reads.get(course) ?? new Set();
    this.#reads.set(course, known);
    this.#depths.set(course, new Set(reads).size);
    for (const read of reads) {
      const site = isNode(read) ? this.#siteAt(read) : undefined;
      if (site && (isField(site.part) || isList(site.part))) known.add(site);
    }
  }

  #edit(act: () => void, work: number): void {
    this.#edits += 1;
    this.#work += work;
    this.#conditional.clear();
    this.#courses.clock.watch(act);
    for (const node of this.#conditional) {
      const course = this.#courses.conditions.get(this.#siteAt(node)!)!;
      course.runs += 1;
      if (node.conditionHolds) course.held += 1;
      const { circle } = node.condition as { readonly circle?: readonly { readonly node: BaseNode }[] };
      if (circle) course.circle ??= circle.map((member) => sitePath(member.node));
    }
  }

  #begin(base: unknown): void {
    this.#edit(() => {
      this.#gate.reset(base);
      this.#store.rerun(this.#store.root, SUBMIT);
    }, this.#sites.length);
  }

  #set(node: BaseNode, raw: unknown): void {
    if (!node.removed) this.#edit(() => this.#gate.field(node.path).set(raw), 1);
  }

  /** The first node of each place, as the form is now. */
  #nodes(): ReadonlyMap<Site, BaseNode> {
    const nodes = new Map<Site, BaseNode>();
    this.#store.root.forEach((node) => {
      const site = this.#siteAt(node);
      if (site && !nodes.has(site)) nodes.set(site, node);
    });
    return nodes;
  }

  /** Tries the fields one by one. */
  #tryEach(base: unknown): void {
    this.#begin(base);
    for (const [site, node] of this.#nodes()) {
      if (!isField(site.part) || this.#edits > MOST.edits) continue;
      const was = node.raw;
      for (const raw of this.#pools.of(site).slice(0, MOST.values)) {
        this.#set(node, raw);
        if (site.part.settings.private && typeof raw === 'string' && raw.length >= SHORTEST) this.#lookFor(raw, site);
      }
      this.#set(node, was);
    }
  }

  /** Notes where a private value is in a message. (The same text may stand in the declaration.) */
  #lookFor(secret: string, site: Site): void {
    const { told } = this.#courses;
    if (told.has(site) || isDeclared(site, secret)) return;
    this.#store.root.forEach((node) => {
      if (node.findings.some(({ message }) => message.includes(secret))) told.set(site, sitePath(node));
    });
  }

  /** Looks for the side of a rule or condition that has not been seen. */
  #search(goal: Goal, bases: readonly unknown[]): void {
    if (this.#work > MOST.work) return;
    goal.course.isSearched = true;
    let tried = 0;
    for (const base of bases) {
      if (goal.isReached() || tried >= MOST.searched) return;
      this.#begin(withRows(base));
      const nodes = this.#nodes();
      // (It may be in another case of an either-or, or in a list without rows.)
      if (!nodes.has(goal.anchor)) continue;
      tried += 1;
      this.#climb(goal, nodes);
      this.#combine(goal, nodes);
    }
  }

  /** What a rule or condition depends on: what it has read by now, and its own value last, since what that may be can depend on the others. */
  #dimensions({ course, own }: Goal, nodes: ReadonlyMap<Site, BaseNode>): readonly Site[] {
    const fields = [...(this.#reads.get(course) ?? [])].filter((site) => site !== own);
    return [...fields.slice(0, FIELDS), ...(own ? [own] : [])].filter(
      (site) => nodes.has(site) && (isField(site.part) || isList(site.part)),
    );
  }

  #valuesFor(site: Site, node: BaseNode, { course, own, functions }: Goal): readonly unknown[] {
    const values = isList(site.part) ? rowCounts(node.raw) : this.#pools.of(site, functions);
    return site === own ? [...firstFor(node, course), ...values] : values;
  }

  /** Changes one value at a time, and keeps what leads further into the function: it then reads more. */
  #climb(goal: Goal, nodes: ReadonlyMap<Site, BaseNode>): void {
    let best = this.#depths.get(goal.course) ?? 0;
    for (let round = 0, isHigher = true; round <= FIELDS && isHigher; round += 1) {
      isHigher = false;
      for (const site of this.#dimensions(goal, nodes)) {
        const node = nodes.get(site)!;
        const was = node.raw;
        let isKept = false;
        for (const raw of this.#valuesFor(site, node, goal).slice(0, MOST.values)) {
          if (goal.isReached()) return;
          this.#set(node, raw);
          const depth = this.#depths.get(goal.course) ?? 0;
          if (depth <= best) continue;
          best = depth;
          isHigher = isKept = true;
          break;
        }
        if (!isKept) this.#set(node, was);
      }
    }
  }

  /** Tries combinations of values. */
  #combine(goal: Goal, nodes: ReadonlyMap<Site, BaseNode>): void {
    const dimensions = this.#dimensions(goal, nodes);
    const most = Math.max(FIELDS, Math.floor(MOST.combinations ** (1 / Math.max(1, dimensions.length))));
    const visit = (index: number): void => {
      const site = dimensions[index];
      if (!site) return;
      const node = nodes.get(site)!;
      const due = [...this.#valuesFor(site, node, goal).slice(0, most)];
      const examples = new Set<string>();
      for (let i = 0; i < due.length && !goal.isReached(); i += 1) {
        this.#set(node, due[i]);
        visit(index + 1);
        // (A message may give an example of what it wants.)
        for (const example of site === goal.own ? node.findings.flatMap(({ message }) => examplesIn(message)) : [])
          if (!examples.has(example) && examples.size < MOST.examples) {
            examples.add(example);
            due.push(example);
          }
      }
    };
    visit(0);
  }
}

/** Tries rules and conditions in a form. @param schema a group @param bases values of it */
export function tryForm(schema: Node, sites: readonly Site[], courses: Courses, pools: Pools, bases: readonly unknown[]): void {
  new FormTrial(schema, sites, courses, pools).run(bases);
}

/** What comes first on the field of a rule: nothing, for one that may require a value; the values at the limits that it has now. */
function firstFor({ part, liveRules }: BaseNode, course: Course): readonly unknown[] {
  if (!('placed' in course) || !isField(part)) return [];
  const { rule } = course.placed;
  if (rule.requires) return [part.emptyRaw];
  const now = liveRules?.find((live) => live.rule === rule)?.now as AnyRule | undefined;
  return now ? limitsOf(part, now, () => []) : [];
}

/** Whether a rule on a row has read all rows of its list. */
function readsAllRows(node: BaseNode, reads: readonly Readable[]): boolean {
  for (let at = node; at.parent; at = at.parent) {
    const list = at.parent;
    const { rows } = list;
    if (!rows || rows.length < ROWS) continue;
    const read = new Set<BaseNode>([at]);
    for (const each of reads)
      if (isNode(each))
        for (let inner: BaseNode | undefined = each; inner; inner = inner.parent) if (inner.parent === list) read.add(inner);
    if (rows.every((row) => read.has(row))) return true;
  }
  return false;
}

/** The same value with several rows in each list. */
function withRows(value: unknown): unknown {
  if (Array.isArray(value)) {
    const rows = value.map(withRows);
    const areObjects = typeof rows[0] === 'object';
    return areObjects ? Array.from({ length: Math.max(ROWS, rows.length) }, (_, i) => rows[i % rows.length]) : rows;
  }
  if (typeof value !== 'object' || value === null || Object.getPrototypeOf(value) !== Object.prototype) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, withRows(inner)]));
}

/** Lists of different lengths with the same rows. */
function rowCounts(raw: unknown): readonly unknown[] {
  const rows = Array.isArray(raw) ? (raw as readonly unknown[]) : [];
  return [rows, ...[0, 1, 2, 3, 5, 8, 13].map((length) => Array.from({ length }, (_, i) => rows[i] ?? rows[0]))];
}

/** Whether a text stands in the declaration of a part. */
const isDeclared = ({ part, rules }: Site, text: string): boolean =>
  JSON.stringify([part.label, part.hint, rules.map(({ rule }) => [rule.params, rule.message])]).includes(text);
