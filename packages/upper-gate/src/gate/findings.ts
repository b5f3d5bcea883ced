// What a node holds of what was found: by its rules, by those of groups around it, by a server, by the program.

import { rank } from '../evaluate/stage.ts';
import { severityOf, toFinding } from '../evaluate/finding.ts';
import { compareOrder } from '../evaluate/order.ts';
import { sameValue } from '../schema/sameValue.ts';
import type { Catalogue } from '../messages/text.ts';
import type { Finding } from '../schema/finding.ts';
import { VALUE_MISSING } from '../schema/field.ts';
import type { Count, LiveRule } from '../schema/kit.ts';
import type { Part } from '../schema/part.ts';
import { blocks } from '../schema/severity.ts';
import type { Found, Order } from '../schema/verdict.ts';
import type { NodeReport } from '../evaluate/report.ts';

/** A finding, and who found it. */
export interface StoredVerdict extends Found {
  readonly source: object;
  /** Where it stands among the findings of the node. */
  readonly order: Order;
  readonly finding: Finding;
}

/** What holding findings needs of their node. */
interface FindingNode {
  readonly path: string;
  readonly part: Part;
  readonly kit: { readonly catalogue: Catalogue | undefined; isFollowed: boolean };
  readonly liveRules: readonly Pick<LiveRule, 'instead'>[] | undefined;
  count(what: Count, by: number): void;
}

const NOTHING: readonly never[] = [];

/** The source of findings that were added: by a server, by the program. They go with the next edit. */
const ADDED = {};
/** The source of the finding that a submission broke down. It blocks nothing. */
const FAILURE = {};
/** Behind everything that rules found. */
const LAST: Order = { depth: -1, index: 0 };

/** Whether a server, or the program, said so, not a rule. */
export const isAdded = ({ source }: StoredVerdict): boolean => source === ADDED || source === FAILURE;
/** Whether it keeps the form from being sent. */
const isError = ({ finding, source }: StoredVerdict): boolean => blocks(finding) && source !== FAILURE;
const findingsOf = (stored: readonly StoredVerdict[]): readonly Finding[] => stored.map(({ finding }) => finding);

export class NodeFindings {
  readonly #node: FindingNode;
  /** All, and those that count: the others give way to an error. */
  #all: readonly StoredVerdict[] = NOTHING;
  #stored: readonly StoredVerdict[] = NOTHING;
  /** Whether any of them was added, by a server or by the program. */
  hasAdded = false;

  constructor(node: FindingNode) {
    this.#node = node;
  }

  get findings(): readonly Finding[] {
    return findingsOf(this.#stored);
  }

  /** Those that block. */
  get errors(): readonly Finding[] {
    return findingsOf(this.#stored.filter(isError));
  }

  /** What was found, with who found it. */
  get stored(): readonly StoredVerdict[] {
    return this.#stored;
  }

  /** Findings whose rules have a `reveal` of their own, with its rank. */
  get reveals(): ReadonlyMap<Finding, number> | undefined {
    const own = this.#stored.filter(({ rule }) => rule?.reveal !== undefined);
    return own.length === 0 ? undefined : new Map(own.map(({ rule, finding }) => [finding, rank(rule!.reveal!)]));
  }

  /** Whether reading or a sync rule found an error. */
  get hasSyncErrors(): boolean {
    return this.#stored.some((stored) => isError(stored) && !isAdded(stored) && !(stored.source as Partial<NodeReport>).isAsync);
  }

  /** Replaces what a source found before. A finding that stays the same is the same object. */
  set(source: object, order: Order, found: readonly Found[]): void {
    const stored = this.#all;
    if (found.length === 0 && stored.length === 0) return;
    const before = stored.filter((each) => each.source === source);
    if (before.length === 0 && found.length === 0) return;
    const now = found.map(({ rule, verdict }, i): StoredVerdict => {
      const finding = this.#write({ rule, verdict });
      const old = before[i]?.finding;
      return { source, order, rule, verdict, finding: old && sameValue(old, finding) ? old : finding };
    });
    const others = stored.length === before.length ? NOTHING : stored.filter((each) => each.source !== source);
    const behind = others.findIndex((each) => compareOrder(each.order, order) > 0);
    const at = behind < 0 ? others.length : behind;
    this.#replace([...others.slice(0, at), ...now, ...others.slice(at)]);
  }

  /** Adds findings of a server, or of the program; but not what rules have found already. */
  add(found: readonly Found[]): void {
    const before = this.#all.filter(({ source }) => source === ADDED);
    const codes = new Set(this.#stored.filter(({ source }) => source !== ADDED).map(({ finding }) => finding.code));
    this.set(ADDED, LAST, [...before, ...found.filter(({ verdict }) => !codes.has(verdict.code))]);
  }

  /** Says that the submission broke down. */
  setFailure(found: readonly Found[]): void {
    this.set(FAILURE, LAST, found);
  }

  clearAdded(): void {
    if (this.hasAdded) this.#replace(this.#all.filter((stored) => !isAdded(stored)));
  }

  clear(): void {
    this.#replace(NOTHING);
  }

  /**
   * Writes the findings again: they are in another language, or the path has changed.
   *
   * @returns whether there are any
   */
  reword(): boolean {
    this.#settle(this.#all.map((stored) => ({ ...stored, finding: this.#write(stored) })));
    return this.#stored.length > 0;
  }

  #write({ rule, verdict }: Found): Finding {
    const { path, part, kit, liveRules } = this.#node;
    const instead = verdict === VALUE_MISSING ? liveRules?.find((each) => each.instead)?.instead : undefined;
    // (It weighs as much as what it stands for.)
    const said = instead ? { ...instead.verdict, severity: severityOf(rule, verdict) } : verdict;
    return toFinding(path, part, rule, said, kit.catalogue);
  }

  #settle(all: readonly StoredVerdict[]): void {
    this.#all = all;
    this.#stored = all.some((each) => isError(each) && !each.verdict.givesWay) ? all.filter(({ verdict }) => !verdict.givesWay) : all;
  }

  #replace(all: readonly StoredVerdict[]): void {
    const before = this.#stored;
    this.#settle(all);
    const now = this.#stored;
    if (now.length === before.length && now.every(({ finding }, i) => finding === before[i]!.finding)) return;
    this.hasAdded = now.some(isAdded);
    if (this.hasAdded) this.#node.kit.isFollowed = true;
    this.#node.count('errors', now.filter(isError).length - before.filter(isError).length);
    this.#node.count('found', now.length - before.length);
  }
}
