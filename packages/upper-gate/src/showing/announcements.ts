// What is announced to screen reader users of every form: each new answer, what appears as a field is left, how many errors a
// refusal found, sending, sent, interrupted, reset. Errors that take the focus are read with it. (Rows announce theirs in
// rowNews.ts; async rules say that they are checking.)

import type { NodeReport } from '../evaluate/report.ts';
import type { StoredVerdict } from '../gate/findings.ts';
import type { AnyGate } from '../gate/gate.ts';
import { shownOf } from '../gate/fieldState.ts';
import { internalsOf } from '../gate/internals.ts';
import type { BaseNode } from '../gate/node.ts';
import { reset, sending, sent, stillRefused } from '../messages/english.ts';
import type { Announcer } from './announcer.ts';
import { shownErrors } from './errors.ts';
import { textOf } from './plan/messages.ts';
import { summaryHeading, wordOf } from './words.ts';

/** Whether an async rule found it. */
const isAnswer = ({ source }: StoredVerdict): boolean => (source as Partial<NodeReport>).isAsync === true;

/** What is shown at a field, and what of it async rules have answered. */
interface Shown {
  readonly text: string;
  readonly answer: string;
}

/** The announcements of a form. */
export interface Announcements {
  /** Announces what appeared on a field while the user left it. */
  readonly left: (node: BaseNode | undefined) => void;
  readonly undo: () => void;
}

/** Announces what happens in a form. */
export function startAnnouncements(gate: AnyGate, { say, update }: Announcer): Announcements {
  const { store, submission } = internalsOf(gate);
  const shownAt = new WeakMap<BaseNode, Shown>();
  /** The fields at which something appeared that was not said. */
  let unsaid = new WeakSet<BaseNode>();
  let { status } = submission;
  /** Whether nothing was edited since the last refusal. */
  let isStillRefused = false;
  /** Stands for the last operation that edited. */
  let edit = {};

  const sayShown = (node: BaseNode, text: string): void => {
    unsaid.delete(node);
    say(text, () => shownAt.get(node)?.text.includes(text) === true);
  };
  const noteShown = (node: BaseNode): void => {
    const { findings, verdicts, parent } = node;
    const before = shownAt.get(node);
    // Findings of the form itself show in its line.
    if (parent === undefined || (findings.length === 0 && before === undefined)) return;
    const shown = shownOf(node, findings, store);
    const text = textOf(shown);
    if (text === (before?.text ?? '')) return;
    const answer = textOf(shown.filter((finding) => verdicts!.stored.some((each) => each.finding === finding && isAnswer(each))));
    if (text === '') shownAt.delete(node);
    else shownAt.set(node, { text, answer });
    unsaid.delete(node);
    if (!node.connections?.size) return;
    // What is found while a submission is checked is counted at its end.
    if (answer !== '' && answer !== before?.answer && submission.status !== 'checking') sayShown(node, answer);
    else if (text !== '') unsaid.add(node);
  };
  const noteStatus = (): void => {
    const before = status;
    ({ status } = submission);
    if (status === before) return;
    const now = status;
    const holds = (): boolean => submission.status === now;
    if (now === 'sending') say(wordOf(gate, 'sending', sending), holds);
    else if (now === 'accepted') say(wordOf(gate, 'sent', sent), holds);
    else if (now === 'editing' && before === 'checking' && store.interrupted) say(wordOf(gate, 'interrupted', store.interrupted), holds);
    else if (now === 'refused') {
      // From here on, each is read with its field.
      unsaid = new WeakSet();
      const summary = summaryHeading(
        gate,
        [...shownErrors(store)].map(([, error]) => error),
      );
      say(isStillRefused ? wordOf(gate, 'stillRefused', stillRefused, { summary }) : summary, holds);
      isStillRefused = true;
    }
  };

  const sayAbout: typeof store.say = (name, english, about, holds, params) =>
    say(wordOf(gate, name, english, { label: about.label, ...params }), holds);
  store.say = sayAbout;
  const stop = store.observe(({ nodes, hasNewValues, isReset }) => {
    if (hasNewValues) {
      isStillRefused = false;
      edit = {};
    }
    nodes.forEach(noteShown);
    update();
    noteStatus();
    if (!isReset) return;
    const own = edit;
    say(wordOf(gate, 'reset', reset), () => edit === own);
  });
  return {
    left(node) {
      if (node && unsaid.has(node)) sayShown(node, shownAt.get(node)!.text);
    },
    undo() {
      // (By now another form may speak for the gate.)
      if (store.say === sayAbout) store.say = undefined;
      stop();
    },
  };
}
