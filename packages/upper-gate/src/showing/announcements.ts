// What is announced to screen reader users: that a field is being checked, each new answer, what appears as a
// field is left, how many errors a refusal found, rows that come, go and move, sending, sent, interrupted, reset. Errors that
// take the focus are read with it.

import type { NodeReport } from '../evaluate/report.ts';
import type { StoredVerdict } from '../gate/findings.ts';
import type { AnyGate } from '../gate/gate.ts';
import { shownOf } from '../gate/fieldState.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import type { Status } from '../gate/submission.ts';
import type { Announcement } from '../messages/codes.ts';
import { checking, interrupted, reset, rowAdded, rowMoved, rowRemoved, sending, sent, stillRefused } from '../messages/english.ts';
import { formatText, inLanguage, type MessageParams, type Text } from '../messages/text.ts';
import type { RowChange } from '../schema/kit.ts';
import type { Announcer } from './announcer.ts';
import { countErrors, summaryHeading, textOf } from './errors.ts';

/** Milliseconds after which a running check is announced. */
const PATIENCE = 1000;

const TEXTS: Readonly<Record<Announcement, Text>> = {
  checking,
  interrupted,
  reset,
  rowAdded,
  rowMoved,
  rowRemoved,
  sending,
  sent,
  stillRefused,
};

const ROW_TEXTS = { added: 'rowAdded', removed: 'rowRemoved', moved: 'rowMoved' } as const;

/** Whether an async rule found it. */
const isAnswer = ({ source }: StoredVerdict): boolean => (source as Partial<NodeReport>).isAsync === true;

/** Announces what happens in a form. */
export class Announcements {
  readonly #gate: AnyGate;
  readonly #announcer: Announcer;
  readonly #stop: () => void;
  /** What is shown at fields, and what of it async rules have answered. */
  readonly #shown = new WeakMap<BaseNode, { readonly text: string; readonly answer: string }>();
  /** The fields at which something appeared that was not said. */
  #unsaid = new WeakSet<BaseNode>();
  /** The timers of what is being checked. */
  readonly #checking = new Map<BaseNode, unknown>();
  #status: Status;
  /** Whether nothing was edited since the last refusal. */
  #isStillRefused = false;
  /** Stands for the last operation that edited, and for the last one that did something to rows: texts about them hold until the next. */
  #edit = {};
  #rows = {};

  constructor(gate: AnyGate, announcer: Announcer) {
    const { store, submission } = internalsOf(gate);
    this.#gate = gate;
    this.#announcer = announcer;
    this.#status = submission.status;
    this.#stop = store.observe(({ nodes, hasNewValues, isReset, rows }) => {
      if (hasNewValues) {
        this.#isStillRefused = false;
        this.#edit = {};
      }
      if (rows.length > 0) this.#rows = {};
      for (const node of nodes) {
        this.#noteShown(node);
        this.#noteChecking(node);
      }
      announcer.update();
      this.#noteStatus();
      if (isReset) this.#sayReset();
      rows.forEach((change) => this.#sayRow(change));
    });
  }

  /** Announces what appeared on a field while the user left it. */
  left(node: BaseNode | undefined): void {
    if (node && this.#unsaid.has(node)) this.#sayShown(node, this.#shown.get(node)!.text);
  }

  undo(): void {
    this.#stop();
    const { clock } = internalsOf(this.#gate).store;
    for (const timer of this.#checking.values()) clock.clearTimeout(timer);
  }

  #say(name: Announcement, params: MessageParams, holds: () => boolean): void {
    const { catalogue } = internalsOf(this.#gate).store;
    this.#announcer.say(formatText(catalogue?.[name] ?? TEXTS[name], params, catalogue), holds);
  }

  #sayShown(node: BaseNode, text: string): void {
    this.#unsaid.delete(node);
    this.#announcer.say(text, () => this.#shown.get(node)?.text.includes(text) === true);
  }

  #noteShown(node: BaseNode): void {
    const { findings, verdicts, parent } = node;
    const before = this.#shown.get(node);
    // Findings of the form itself show in its line.
    if (parent === undefined || (findings.length === 0 && before === undefined)) return;
    const { store, submission } = internalsOf(this.#gate);
    const shown = shownOf(node, findings, store);
    const text = textOf(shown);
    if (text === (before?.text ?? '')) return;
    const { stored } = verdicts!;
    const answer = textOf(shown.filter((finding) => stored.some((each) => each.finding === finding && isAnswer(each))));
    if (text === '') this.#shown.delete(node);
    else this.#shown.set(node, { text, answer });
    this.#unsaid.delete(node);
    if (!node.connections?.size) return;
    // What is found while a submission is checked is counted at its end.
    if (answer !== '' && answer !== before?.answer && submission.status !== 'checking') this.#sayShown(node, answer);
    else if (text !== '') this.#unsaid.add(node);
  }

  #noteChecking(node: BaseNode): void {
    if (node.asyncRunners === undefined) return;
    const isChecked = node.pending > 0;
    if (isChecked === this.#checking.has(node)) return;
    const { clock, catalogue } = internalsOf(this.#gate).store;
    if (isChecked) {
      const say = (): void => this.#say('checking', { label: inLanguage(node.part.label, catalogue) }, () => this.#checking.has(node));
      this.#checking.set(node, clock.setTimeout(say, PATIENCE));
    } else {
      clock.clearTimeout(this.#checking.get(node));
      this.#checking.delete(node);
      this.#announcer.update();
    }
  }

  #noteStatus(): void {
    const { submission } = internalsOf(this.#gate);
    const { status } = submission;
    const before = this.#status;
    if (status === before) return;
    this.#status = status;
    const holds = (): boolean => submission.status === status;
    const params = { label: '' };
    if (status === 'sending') this.#say('sending', params, holds);
    else if (status === 'accepted') this.#say('sent', params, holds);
    else if (status === 'editing' && before === 'checking') this.#say('interrupted', params, holds);
    else if (status === 'refused') {
      // From here on, each is read with its field.
      this.#unsaid = new WeakSet();
      const summary = summaryHeading(this.#gate, countErrors(this.#gate));
      if (this.#isStillRefused) this.#say('stillRefused', { ...params, summary }, holds);
      else this.#announcer.say(summary, holds);
      this.#isStillRefused = true;
    }
  }

  #sayReset(): void {
    const edit = this.#edit;
    this.#say('reset', { label: '' }, () => this.#edit === edit);
  }

  #sayRow(change: RowChange<BaseNode>): void {
    const rows = this.#rows;
    const label = inLanguage(change.list.part.label, internalsOf(this.#gate).store.catalogue);
    const row = (change.kind === 'added' ? change.to : change.from) + 1;
    const params = { label, row, ...(change.kind === 'moved' && { to: change.to + 1 }) };
    this.#say(ROW_TEXTS[change.kind], params, () => this.#rows === rows);
  }
}
