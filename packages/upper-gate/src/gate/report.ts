// What one rule reports in one form. A verdict belongs to the field that it names, as long as that applies; else to the
// node of the rule.

import { severityOf } from '../evaluate/finding.ts';
import type { LiveNode, Report } from '../schema/kit.ts';
import { blocks } from '../schema/severity.ts';
import type { Found, Order, Reporter, Verdict } from '../schema/verdict.ts';

/** Where a rule is that reports. */
export interface ReportingNode extends LiveNode {
  /** The reports of rules here that name other fields. */
  namingReports: Set<NodeReport> | undefined;
}

const NOTHING: readonly never[] = [];

export class NodeReport implements Report {
  errorsElsewhere = 0;
  /** Whether an async rule reports: its errors do not keep the same rule from running. */
  readonly isAsync: boolean;
  readonly #node: ReportingNode;
  readonly #rule: Reporter;
  readonly #order: Order;
  #verdicts: readonly Verdict[] = NOTHING;
  /** The other nodes that have verdicts of this rule. */
  #others: readonly LiveNode[] = NOTHING;

  constructor(node: ReportingNode, rule: Reporter, order: Order, isAsync: boolean) {
    this.#node = node;
    this.#rule = rule;
    this.#order = order;
    this.isAsync = isAsync;
  }

  set(verdicts: readonly Verdict[]): void {
    if (verdicts.length === 0 && this.#verdicts.length === 0) return;
    this.#verdicts = verdicts;
    if (verdicts.some(({ path }) => path)) (this.#node.namingReports ??= new Set()).add(this);
    this.place();
  }

  /** Puts the verdicts where they belong by now: a field that they name may apply, or no longer apply. */
  place(): void {
    const node = this.#node;
    const rule = this.#rule;
    const byNode = new Map<LiveNode, Found[]>([[node, []]]);
    this.errorsElsewhere = 0;
    for (const verdict of this.#verdicts) {
      const named = verdict.path ? node.kit.find(verdict.path, node) : undefined;
      const holder = named?.applies ? named : node;
      if (holder !== node && blocks({ severity: severityOf(rule, verdict) })) this.errorsElsewhere += 1;
      const found = byNode.get(holder);
      const own = { rule, verdict: holder === node ? verdict : { ...verdict, path: undefined } };
      if (found) found.push(own);
      else byNode.set(holder, [own]);
    }
    for (const other of this.#others) if (!byNode.has(other)) other.setVerdicts(this, this.#order, NOTHING);
    for (const [holder, found] of byNode) holder.setVerdicts(this, this.#order, found);
    byNode.delete(node);
    this.#others = [...byNode.keys()];
  }
}
