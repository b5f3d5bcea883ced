// Follows one form: puts what its store reports (see `Tracer`), and what each operation has changed, into entries. It
// remembers of each node what was last seen of it, since an operation only says that something has changed.

import { shownOf } from '../gate/fieldState.ts';
import { isAdded, type StoredVerdict } from '../gate/findings.ts';
import type { GateInternals } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import { toFinding } from '../evaluate/finding.ts';
import { verdictsIn } from '../evaluate/verdicts.ts';
import type { Finding } from '../schema/finding.ts';
import type { Actor, AsyncState, LiveNode, Operation, Readable, TracedRule, Tracer } from '../schema/kit.ts';
import type { RuleResult, Stage, Verdict } from '../schema/verdict.ts';
import { ownName, type Entry, type Happening, type Reason, type TraceData, type TracedFinding } from './entries.ts';
import { openValue, plain } from './plain.ts';
import { APPLIES, awaitedIn, whyNot, whyNotAsync, whyUnvalued } from './reasons.ts';
import { follow } from './tracers.ts';
import { holdsPrivate, isAuthored, openPath, privateAround, readsPrivate, Secrets } from './secrets.ts';

/** What follows a form needs to be told. */
export interface FollowOptions {
  /** Adds an entry. What is written into it later is in it. */
  readonly add: (happening: Happening, cause: number | undefined) => Entry;
  /** Whether data that are sent, and facts from outside, are to be in it. */
  readonly withData: boolean;
}

/** What was last seen of a node. */
interface Seen {
  readonly findings: readonly Finding[];
  readonly shown: readonly Finding[];
  readonly applies: boolean;
}

/** How far an async rule has come, as far as entries say. */
interface Course {
  state: AsyncState;
  entry: number | undefined;
}

const NOTHING: readonly never[] = [];

/** A form that is followed. */
export interface Following {
  /** What it was at the beginning. */
  readonly initial: Pick<TraceData, 'on' | 'reveal' | 'show' | 'raw' | 'findings' | 'shown'>;
  readonly stop: () => void;
}

const STAGES: readonly Stage[] = ['change', 'blur', 'submit'];

/** Follows a form. */
export function followForm({ store, submission }: GateInternals, { add, withData }: FollowOptions): Following {
  const { root } = store;
  const isSecretive = holdsPrivate(root);
  const secrets = new Secrets();
  const seen = new WeakMap<BaseNode, Seen>();
  const courses = new WeakMap<BaseNode, Map<TracedRule, Course>>();
  /** The entries with which runs began. */
  const started = new WeakMap<object, number>();
  const skipped = new WeakMap<BaseNode, Map<TracedRule, string>>();
  /** What began the operation under way; what has changed in it, by the entries that say so; which entry ran the rules of a node last. */
  let trigger: number | undefined;
  let changes = new Map<unknown, number>();
  let runs = new Map<unknown, Map<unknown, number>>();
  /** Edits that are under way: they are entered once the new value is there. */
  let edits: (readonly [node: BaseNode, happening: Happening])[] = [];
  /** What starts over in the operation under way, and the entries to which the new value belongs. */
  let resets = new Map<LiveNode, Entry>();
  let before = performance.now();
  let { status } = submission;
  let submitted: number | undefined;
  /** Whether the next run of all rules is that of a submission. */
  let isSubmitting = false;

  const who = (): Actor | 'rule' => (store.recorder ? 'rule' : store.isCallingBack ? 'program' : store.actor);
  const nameOf = (read: Readable): string => ('part' in read ? openPath(read as BaseNode) : `context ${(read as { name?: string }).name}`);
  const pathsOf = (node: BaseNode, reads: readonly Readable[]): readonly string[] => [
    ...new Set(reads.filter((read) => read !== node).map(nameOf)),
  ];
  const note = (happening: Happening, cause = trigger): number => add(happening, cause).n;
  const causeOf = (node: BaseNode, reads: readonly Readable[] = NOTHING): number | undefined => {
    // (What a server found is caused by what was sent.)
    if (store.actor === 'server' && submitted !== undefined) return submitted;
    const known = [node, ...reads].flatMap((each) => changes.get(each) ?? []);
    return known.length > 0 ? Math.max(...known) : trigger;
  };
  const labelled = (node: BaseNode, rule: TracedRule) => ({ path: openPath(node), rule: rule.name, ...optional('name', ownName(rule)) });
  const noteRun = (node: BaseNode, rule: unknown, entry: number): void => {
    for (const key of [node, root]) runs.set(key, (runs.get(key) ?? new Map<unknown, number>()).set(rule, entry));
  };
  /** The entry of the rule that has found something at a node, or finds it no more; it may have named the node from elsewhere. */
  const runOf = (node: BaseNode, rule: unknown): number | undefined =>
    runs.get(node)?.get(rule) ?? runs.get(root)?.get(rule) ?? causeOf(node);
  const took = (): number => {
    const now = performance.now();
    const passed = now - before;
    before = now;
    return Math.round(passed * 1000) / 1000;
  };

  /** A finding as a trace holds it. @param isTainted whether it may have been made from something private */
  const openFinding = (node: BaseNode, { path, code, severity, message, params }: Finding, isTainted: boolean): TracedFinding => {
    const isHidden = isTainted || privateAround(node) !== undefined;
    if (isHidden) secrets.add(message);
    return {
      path: isHidden ? openPath(node) : path,
      code,
      severity,
      ...(!isHidden && { message: secrets.scrub(message), params: scrubbed(plain(params)) as Readonly<Record<string, unknown>> }),
    };
  };
  const scrubbed = (value: unknown): unknown =>
    typeof value === 'string'
      ? secrets.scrub(value)
      : Array.isArray(value)
        ? value.map(scrubbed)
        : typeof value === 'object' && value !== null
          ? Object.fromEntries(Object.entries(value).map(([key, inner]) => [secrets.scrub(key), scrubbed(inner)]))
          : value;
  /** Rules that may have made their findings from something private. */
  const tainted = new WeakSet<object>();
  /** Findings as they were entered, and which rule has found them. */
  const written = new WeakMap<Finding, { readonly by: unknown; readonly finding: TracedFinding }>();
  const findingsOf = (node: BaseNode, rule: TracedRule, verdicts: readonly Verdict[], isTainted: boolean): readonly TracedFinding[] =>
    verdicts.map((verdict) => {
      const named = verdict.path ? (store.find(verdict.path, node) ?? node) : node;
      return openFinding(named, toFinding(node.path, node.part, rule as never, verdict, store.catalogue), isTainted);
    });

  const openRaw = (node: BaseNode): { readonly raw?: unknown } => {
    if (isSecretive) node.forEach((each) => privateAround(each) && secrets.note(each));
    return optional('raw', scrubbed(openValue(node)));
  };
  /** Something began: an operation, or another step of it. */
  const begin = (node: BaseNode, happening: Happening): Entry => {
    // A callback edits because of what it was called for.
    const entry = add(happening, store.isCallingBack ? trigger : undefined);
    trigger = entry.n;
    for (let at: BaseNode | undefined = node; at; at = at.parent) changes.set(at, trigger);
    return entry;
  };
  const settleEdits = (): void => {
    const now = edits;
    edits = [];
    before = performance.now();
    for (const [node, happening] of now) begin(node, { ...happening, ...openRaw(node) });
  };
  const skip = (node: BaseNode, rule: TracedRule, why: Reason, awaited?: Readable): void => {
    const known = skipped.get(node) ?? new Map<TracedRule, string>();
    skipped.set(node, known);
    const on = awaited && nameOf(awaited);
    // It stays so with every edit: once is enough.
    if (known.get(rule) === `${why} ${on}`) return;
    known.set(rule, `${why} ${on}`);
    noteRun(node, rule, note({ kind: 'skipped', ...labelled(node, rule), why, ...(on !== undefined && { for: on }) }, causeOf(node)));
  };
  const run = (node: BaseNode, rule: TracedRule, reads: readonly Readable[], verdicts: readonly Verdict[]): void => {
    skipped.get(node)?.delete(rule);
    if (isAuthored(rule) && readsPrivate(reads)) tainted.add(rule);
    const found = findingsOf(node, rule, verdicts, tainted.has(rule));
    noteRun(
      node,
      rule,
      note({ kind: 'ran', ...labelled(node, rule), reads: pathsOf(node, reads), found, took: took() }, causeOf(node, reads)),
    );
  };

  const tracer: Tracer = {
    edited(node, isRebase) {
      settleEdits();
      const at = node as BaseNode;
      const path = openPath(at);
      edits.push([at, isRebase ? { kind: 'rebased', path } : { kind: 'edited', path, by: who() }]);
    },
    rowChanged(change) {
      // The list has been noted as edited: this says how.
      edits.pop();
      const list = change.list as BaseNode;
      const on = { path: openPath(list), by: who() };
      if (change.kind === 'added') begin(list, { kind: 'rowAdded', ...on, to: change.to, ...openRaw(change.row as BaseNode) });
      else if (change.kind === 'removed') begin(list, { kind: 'rowRemoved', ...on, from: change.from });
      else begin(list, { kind: 'rowMoved', ...on, from: change.from, to: change.to });
    },
    left(node) {
      settleEdits();
      begin(node as BaseNode, { kind: 'left', path: openPath(node as BaseNode), by: who() });
    },
    restarted(node) {
      settleEdits();
      // What is in it starts over with it.
      for (let at = node.parent; at; at = at.parent) if (resets.has(at)) return;
      resets.set(node, begin(node as BaseNode, { kind: 'reset', path: openPath(node as BaseNode) }));
    },
    ranOwn(node, rule, result) {
      settleEdits();
      run(node as BaseNode, rule, NOTHING, verdictsIn(result as RuleResult));
    },
    ranAll(node, found) {
      settleEdits();
      const at = node as BaseNode;
      for (const rule of at.part.ruleList) {
        if (rule.async) continue;
        const why = whyNot(node, rule);
        if (why) skip(at, rule, why);
        // Reading and `required` come before the others, whose loop reports itself.
        else if (rule.requires)
          run(
            at,
            rule,
            NOTHING,
            found.filter((each) => each.rule === rule).map(({ verdict }) => verdict),
          );
      }
      before = performance.now();
    },
    ran(node, rule, reads, found) {
      settleEdits();
      const at = node as BaseNode;
      const why = found ? undefined : whyNot(node, rule);
      const awaited = found?.length === 0 ? awaitedIn(reads) : undefined;
      const ownWhy = found?.length === 0 && rule.name !== APPLIES ? whyUnvalued(node, rule) : undefined;
      if (why ?? ownWhy) skip(at, rule, (why ?? ownWhy)!);
      else if (awaited) skip(at, rule, 'waits', awaited);
      else run(at, rule, reads, found ?? NOTHING);
    },
    submitted() {
      settleEdits();
      submitted = trigger = add({ kind: 'submitted', by: who() }, undefined).n;
      isSubmitting = true;
    },
    reran(node, event, reveals) {
      settleEdits();
      const cause = isSubmitting || event === 0 ? submitted : undefined;
      isSubmitting = false;
      trigger = add({ kind: 'validated', path: openPath(node as BaseNode), reveals }, cause).n;
    },
    came(node, rule, state, verdicts, isAnswered, reads, run, options) {
      settleEdits();
      const at = node as BaseNode;
      const all = courses.get(at) ?? new Map<TracedRule, Course>();
      courses.set(at, all);
      const course = all.get(rule) ?? { state: 'idle', entry: undefined };
      all.set(rule, course);
      const { state: was, entry } = course;
      if (state === was) return;
      const on = labelled(at, rule);
      const read = { reads: pathsOf(at, reads) };
      const mayBePrivate = tainted.has(rule) || isSecretive;
      const [first] = verdicts;
      const happening: Happening =
        state === 'waiting'
          ? { kind: 'waiting', ...on, pause: rule.async!.debounce }
          : state === 'running'
            ? { kind: 'started', ...on }
            : state === 'idle'
              ? { kind: 'aborted', ...on, was: was as 'running', ...read }
              : isAnswered
                ? {
                    ...(was === 'running' || options ? { kind: 'answered', ...read } : { kind: 'recalled' }),
                    ...on,
                    found: findingsOf(at, rule, verdicts, mayBePrivate),
                    ...(options && { options: plain(options) as readonly unknown[] }),
                  }
                : { kind: 'unanswered', ...on, why: first ? whyOf(first) : 'waits', ...read };
      course.state = state;
      skipped.get(at)?.delete(rule);
      course.entry = note(happening, state === 'idle' ? causeOf(at) : (entry ?? causeOf(at)));
      if (state === 'running' && run) started.set(run, course.entry);
      if (state === 'idle') course.entry = undefined;
      else if (state === 'settled') trigger = course.entry;
      noteRun(at, rule, course.entry ?? trigger!);
    },
    heldBack(node, rule) {
      const why = whyNotAsync(node, rule);
      if (why) skip(node as BaseNode, rule, why);
    },
    cameLate: (node, rule, run) => void add({ kind: 'cameLate', ...labelled(node as BaseNode, rule) }, started.get(run)),
    learnt(name, value) {
      settleEdits();
      trigger = add({ kind: 'contextChanged', name, ...(withData && optional('value', scrubbed(plain(value)))) }, undefined).n;
    },
    focused: (node) => void note({ kind: 'focused', path: openPath(node as BaseNode) }),
    announced: (text) => void note({ kind: 'announced', text: secrets.scrub(text) }),
    faulted(node, rule, error) {
      note({ kind: 'faulted', path: openPath(node as BaseNode), rule, error: isSecretive ? nameOfError(error) : toldOf(error) });
    },
  };

  /** What a server found, or an async rule, may have been made of anything. */
  const isTainted = (stored: StoredVerdict | undefined): boolean =>
    isSecretive &&
    (stored === undefined || isAdded(stored) || (stored.rule !== undefined && (tainted.has(stored.rule) || 'async' in stored.rule)));
  const noteNode = (node: BaseNode): void => {
    const was = seen.get(node);
    const findings = node.removed ? NOTHING : node.findings;
    const shown = node.removed ? NOTHING : shownOf(node, findings, store);
    const { applies } = node;
    seen.set(node, { findings, shown, applies });
    const stored = new Map<Finding, StoredVerdict>(node.verdicts?.stored.map((each) => [each.finding, each]));
    const tell = (kind: 'found' | 'gone' | 'shown' | 'hidden', finding: Finding): void => {
      const known = stored.get(finding);
      const entered = written.get(finding) ?? { by: known?.rule, finding: openFinding(node, finding, isTainted(known)) };
      written.set(finding, entered);
      const isShowing = kind === 'shown' || kind === 'hidden';
      const on = { path: openPath(node), finding: entered.finding };
      const cause = isShowing ? causeOf(node) : runOf(node, entered.by);
      if (kind !== 'found') note({ kind, ...on }, cause);
      // (What the program adds has no cause in the form.)
      else if (known && isAdded(known)) add({ kind, ...on, by: store.actor }, store.actor === 'server' ? submitted : undefined);
      else note({ kind, ...on, ...optional('rule', known?.rule?.name) }, cause);
    };
    if (node.removed) seen.delete(node);
    else if (was ? was.applies !== applies : !applies)
      note({ kind: 'appliesChanged', path: openPath(node), applies }, runs.get(node)?.values().next().value ?? causeOf(node));
    for (const finding of was?.findings ?? NOTHING) if (!findings.includes(finding)) tell('gone', finding);
    for (const finding of findings) if (!was?.findings.includes(finding)) tell('found', finding);
    for (const finding of was?.shown ?? NOTHING) if (!shown.includes(finding) && findings.includes(finding)) tell('hidden', finding);
    for (const finding of shown) if (!was?.shown.includes(finding)) tell('shown', finding);
  };
  const noteStatus = (): void => {
    if (submission.status === status) return;
    const was = status;
    ({ status } = submission);
    const by = status === 'refused' ? (was === 'sending' ? 'server' : 'rules') : undefined;
    const data = withData && status === 'sending' ? openValue(root, (field) => field.data) : undefined;
    const entry = note(
      { kind: 'submission', status, ...(by && { by }), ...(data !== undefined && { data: scrubbed(data) }) },
      status === 'editing' ? trigger : submitted,
    );
    submitted = status === 'editing' ? undefined : entry;
    trigger = entry;
  };
  const observe = ({ nodes }: Operation<BaseNode>): void => {
    settleEdits();
    for (const [node, entry] of resets) Object.assign(entry, openRaw(node as BaseNode));
    resets = new Map();
    nodes.forEach(noteNode);
    noteStatus();
    changes = new Map();
    runs = new Map();
    if (!store.isBusy) trigger = undefined;
  };

  root.forEach((node) => {
    const { findings, applies } = node;
    seen.set(node, { findings, shown: shownOf(node, findings, store), applies });
    if (isSecretive && privateAround(node)) secrets.note(node);
    // What they read last time is not known.
    if (isSecretive) for (const { rule } of node.liveRules ?? NOTHING) if (isAuthored(rule)) tainted.add(rule);
  });
  const open: { readonly findings: TracedFinding[]; readonly shown: TracedFinding[] } = { findings: [], shown: [] };
  root.forEach((node) => {
    for (const each of node.verdicts?.stored ?? NOTHING) {
      const finding = openFinding(node, each.finding, isTainted(each));
      written.set(each.finding, { by: each.rule, finding });
      open.findings.push(finding);
      if (seen.get(node)!.shown.includes(each.finding)) open.shown.push(finding);
    }
  });
  const initial: Following['initial'] = {
    on: STAGES[store.onRank]!,
    reveal: STAGES[store.revealRank]!,
    show: store.showsFirst ? 'first' : 'all',
    raw: openValue(root),
    ...open,
  };
  root.forEach((node) => {
    for (const rule of underWay(node)) {
      courses.set(
        node,
        (courses.get(node) ?? new Map<TracedRule, Course>()).set(rule, {
          state: 'running',
          entry: add({ kind: 'started', ...labelled(node, rule) }, undefined).n,
        }),
      );
    }
  });
  const stopObserving = store.observe(observe);
  const stopFollowing = follow(store, guarded(tracer));
  return {
    initial,
    stop() {
      stopObserving();
      stopFollowing();
    },
  };
}

/** The async rules of a node that seem to be under way: as many as are pending there, of those without an answer. */
function underWay({ pending, children, asyncRunners = [], liveRules = [] }: BaseNode): readonly TracedRule[] {
  const own = pending - children.reduce((sum, child) => sum + child.pending, 0);
  const waiting = asyncRunners.filter(({ isAnswered }) => !isAnswered).map(({ rule }) => rule);
  const loading = liveRules
    .filter(({ rule, now }) => 'async' in rule && rule.async !== undefined && now === undefined)
    .map(({ rule }) => rule);
  return [...loading, ...waiting].slice(0, own);
}

/** A property, if it has a value. */
const optional = <K extends string, T>(key: K, value: T): { [P in K]?: NonNullable<T> } =>
  (value === undefined ? {} : { [key]: value }) as { [P in K]?: NonNullable<T> };

const whyOf = ({ code, params }: Verdict): 'timeout' | 'failed' | 'crashed' =>
  code === 'crashed' ? 'crashed' : params?.['reason'] === 'timeout' ? 'timeout' : 'failed';

/** What was thrown, by its name only. */
function nameOfError(error: unknown): string {
  try {
    return error instanceof Error ? error.constructor.name : typeof error;
  } catch {
    return 'something';
  }
}

function toldOf(error: unknown): string {
  try {
    return String(error);
  } catch {
    return nameOfError(error);
  }
}

/** A tracer of which nothing that it throws reaches the form. */
function guarded(tracer: Tracer): Tracer {
  const guard =
    (act: (...args: never[]) => void) =>
    (...args: never[]): void => {
      try {
        act(...args);
      } catch (error) {
        console.error('Upper Gate: the trace:', error);
      }
    };
  return Object.fromEntries(
    Object.entries(tracer).map(([key, act]) => [key, guard(act as (...args: never[]) => void)]),
  ) as unknown as Tracer;
}
