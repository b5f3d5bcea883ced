// What one rule reports in one form. A verdict belongs to the field that it names, as long as that applies; else to the
// node of the rule.

import { severityOf } from './finding.ts';
import type { LiveNode, NamingReport, Report } from '../schema/kit.ts';
import { blocks } from '../schema/severity.ts';
import type { Found, Order, Reporter, Verdict } from '../schema/verdict.ts';

const NOTHING: readonly never[] = [];

export class NodeReport implements Report, NamingReport {
  errorsElsewhere = 0;
  /** Whether an async rule reports: its errors do not keep the same rule from running. */
  readonly isAsync: boolean;
  readonly #node: LiveNode;
  readonly #rule: Reporter;
  readonly #order: Order;
  #verdicts: readonly Verdict[] = NOTHING;
  /** The other nodes that have verdicts of this rule. */
  #others: readonly LiveNode[] = NOTHING;

  constructor(node: LiveNode, rule: Reporter, order: Order, isAsync = false) {
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
