// The rule that no two rows are the same, in one form. Rows are kept by what they are compared by, so that an edit costs
// what the rows of its old and its new value cost, not what the list does.

import { NodeReport } from '../../evaluate/report.ts';
import { createWatch } from '../../evaluate/tracking.ts';
import type { Job, LiveNode, LiveRule, Report, Watch } from '../../schema/kit.ts';
import type { AnyRule } from '../../schema/rule.ts';
import type { Order, Verdict } from '../../schema/verdict.ts';

/** How rows are compared. */
export interface Distinct {
  /** The field of the row that is compared. Default: the row itself. */
  readonly by: string | undefined;
  /** What a row is compared by; nothing if it has no value. Reads the row by calling `readRow`. */
  readonly keyOf: (readRow: () => unknown) => unknown;
  /** The finding on a row that is the same as an earlier one, by their indices. */
  readonly verdict: (index: number, first: number) => Verdict;
}

/** One row, and what it is compared by. */
interface IndexedRow {
  readonly node: LiveNode;
  readonly watch: Watch;
  /** On the field that is compared, or on the row. */
  readonly report: Report;
  key: unknown;
}

const NOTHING: readonly never[] = [];

/** Attaches the rule to a list. */
export function attachRowIndex({ by, keyOf, verdict }: Distinct, rule: AnyRule, list: LiveNode, order: Order): void {
  const { kit } = list;
  const rows = new Map<LiveNode, IndexedRow>();
  /** The rows of each key, in no order. */
  const rowsByKey = new Map<unknown, Set<IndexedRow>>();
  /** How many keys have no rows any more. Taking one out of a large map is dear: it is done for many at once. */
  let emptyKeys = 0;
  const invalid = new Set<IndexedRow>();
  let isRearranged = true;

  const leave = (row: IndexedRow, keys: Set<unknown>): void => {
    const same = rowsByKey.get(row.key);
    if (!same?.delete(row)) return;
    if (same.size === 0) emptyKeys += 1;
    keys.add(row.key);
  };
  const enter = (row: IndexedRow, keys: Set<unknown>): void => {
    if (row.key === undefined) return row.report.set(NOTHING);
    let same = rowsByKey.get(row.key);
    if (!same) rowsByKey.set(row.key, (same = new Set()));
    else if (same.size === 0) emptyKeys -= 1;
    same.add(row);
    keys.add(row.key);
  };
  const drop = (row: IndexedRow): void => {
    row.watch.untrack();
    rows.delete(row.node);
    invalid.delete(row);
    row.report.set(NOTHING);
  };
  const add = (node: LiveNode): void => {
    const row: IndexedRow = {
      node,
      watch: createWatch(node, () => {
        invalid.add(row);
        schedule();
      }),
      report: new NodeReport((by === undefined ? undefined : kit.find(by, node)) ?? node, rule, order),
      key: undefined,
    };
    rows.set(node, row);
    invalid.add(row);
  };
  const arrange = (keys: Set<unknown>): void => {
    isRearranged = false;
    watch.track(() => kit.read(list));
    const now = new Set(list.children);
    for (const row of [...rows.values()]) {
      if (now.has(row.node)) continue;
      leave(row, keys);
      drop(row);
    }
    for (const node of now) if (!rows.has(node)) add(node);
    // Findings name the numbers of rows, which may be others now.
    for (const [key, same] of rowsByKey) if (same.size > 1) keys.add(key);
  };
  /** The first of equal rows passes; the others get the finding. */
  const updateVerdicts = (same: ReadonlySet<IndexedRow> | undefined): void => {
    if (!same || same.size === 0) return;
    const [first, ...others] = [...same].sort((a, b) => Number(a.node.key) - Number(b.node.key));
    first!.report.set(NOTHING);
    for (const { node, report } of others) report.set([{ ...verdict(Number(node.key), Number(first!.node.key)), path: undefined }]);
  };

  const schedule = (): void => kit.schedule(live);
  const watch = createWatch(list, () => {
    isRearranged = true;
    schedule();
  });
  const live: LiveRule & Job = {
    rule,
    now: rule,
    requires: false,
    isQueued: false,
    schedule,
    run() {
      if (!list.applies || !list.isDue(rule)) {
        kit.tracer?.ran(list, rule, NOTHING);
        [...rows.values()].forEach(drop);
        rowsByKey.clear();
        emptyKeys = 0;
        watch.untrack();
        isRearranged = true;
        return;
      }
      const keys = new Set<unknown>();
      if (isRearranged) arrange(keys);
      for (const row of invalid) {
        leave(row, keys);
        row.key = row.watch.track(() => keyOf(() => row.node.readForRule()));
        enter(row, keys);
      }
      invalid.clear();
      for (const key of keys) updateVerdicts(rowsByKey.get(key));
      kit.tracer?.ran(list, rule, watch.reads, NOTHING);
      if (emptyKeys > rows.size + 16) {
        for (const [key, same] of rowsByKey) if (same.size === 0) rowsByKey.delete(key);
        emptyKeys = 0;
      }
      kit.updateAsync(list, 0);
    },
  };
  (list.liveRules ??= []).push(live);
}
