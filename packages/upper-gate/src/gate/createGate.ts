// Makes the gate: the live controller of one form.

import { DEV, explain, fieldsBelow } from '#development';
import { assertUse, wrongUse } from '../schema/assertUse.ts';
import type { Catalogue } from '../messages/text.ts';
import { checkContext } from '../schema/context/checkContext.ts';
import type { ContextToken } from '../schema/context/context.ts';
import { isGroup } from '../schema/group.ts';
import { atOnce } from '../schema/safeAccess.ts';
import type { AnswerAsync, FormClock } from '../schema/kit.ts';
import { partOf } from '../schema/part.ts';
import type { Node } from '../schema/node.ts';
import { SUBMIT } from '../evaluate/stage.ts';
import { addVerdicts } from './addVerdicts.ts';
import { createEvents } from './events.ts';
import { findingsBelow } from './findingsBelow.ts';
import type { Gate, GateOptions, GateState, ValidateGateOptions } from './gate.ts';
import { handleOf, jsonOf, listOf, type Handle } from './handle.ts';
import { withInternals } from './internals.ts';
import type { BaseNode } from './node.ts';
import { verdictsOf, type GivenFinding, type ProblemDetails } from './serverAnswer.ts';
import { FormStore } from './store.ts';
import { createSubmission } from './submission.ts';

/**
 * Makes the live controller of a form.
 *
 * @param schema a group
 * @param options the initial values, the submit handler, the language, when findings show
 * @returns the gate
 * @throws TypeError for a schema that is no group, in production too
 *
 * @example
 * const gate = createGate(passage, { initial: { vessel: 'Otter' }, submit: (data) => api.book(data) });
 * gate.field('vessel').set('Heron');
 * await gate.submit();
 */
export const createGate = <N extends Node, R = unknown>(schema: N, options: GateOptions<N, R> = {}): Gate<N, R> =>
  makeGate(schema, options);

/** Makes a gate. @param answerAsync answers its async rules, for a form that is rehearsed */
export function makeGate<N extends Node, R = unknown>(schema: N, options: GateOptions<N, R>, answerAsync?: AnswerAsync): Gate<N, R> {
  const {
    initial,
    on = 'change',
    reveal = 'blur',
    submit: handler,
    refusal,
    focus = 'first',
    messages,
    clock = SYSTEM_CLOCK,
    onFault,
    show,
    context,
  } = options;
  const part = partOf(schema);
  assertUse(isGroup(part), DEV && 'createGate() takes a group. Write createGate(group({ ... })).');
  const store = new FormStore(
    on,
    reveal,
    clock,
    messages,
    (fault) => {
      const heard = events.emit('fault', fault);
      if (onFault) return onFault(fault);
      if (!heard) console.error(`Upper Gate: "${fault.path}" (${fault.rule}):`, fault.error);
    },
    answerAsync,
  );
  store.showsFirst = show === 'first';
  const setContext = (token: ContextToken, value: unknown): void => store.contextOf(token).set(token, value);
  const events = createEvents(store);
  const root = store.createNode(part, undefined, '', initial);
  store.root = root;
  checkContext(context);
  context?.forEach(({ token, value }) => setContext(token as unknown as ContextToken, value));
  store.batch(() => store.start(root));
  const submission = createSubmission(store, { handler, refusal, focus, emit: events.emit });
  const onDispose = new Set<() => void>();

  const find = (path: string): BaseNode => {
    const node = store.find(path);
    if (node === undefined)
      throw wrongUse(DEV && explain('wrong-path', `The form has no field "${path}". Its fields: ${fieldsBelow(root).join(', ')}.`));
    return node;
  };
  const findAll = (paths: string | readonly string[]): readonly BaseNode[] => [paths].flat().map(find);
  let lastState: GateState | undefined;

  const gate = {
    ...withInternals({
      store,
      submission,
      idPrefix: 'gate',
      form: undefined,
      places: { line: undefined, summary: undefined },
      onDispose,
    }),
    schema,
    root: handleOf(store, root),
    get state(): GateState {
      const { errors, pending, dirty, touched } = root;
      const valid = store.isValid(root);
      const { status, count: submitCount } = submission;
      const before = lastState;
      if (
        before?.status === status &&
        before.errorCount === errors &&
        before.valid === valid &&
        before.pending === pending > 0 &&
        before.dirty === dirty > 0 &&
        before.touched === touched > 0 &&
        before.submitCount === submitCount
      )
        return before;
      return (lastState = {
        status,
        valid,
        pending: pending > 0,
        dirty: dirty > 0,
        touched: touched > 0,
        submitCount,
        errorCount: errors,
      });
    },
    get findings() {
      return findingsBelow(root);
    },
    field: (path: string) => handleOf(store, find(path)),
    list: (list: string | Handle) => listOf(typeof list === 'string' ? handleOf(store, find(list)) : list),
    has: (path: string) => store.find(path) !== undefined,
    set: (values: unknown) => root.edit(values),
    batch: <T>(operation: () => T) => store.batch(operation),
    async validate(paths: string | readonly string[] = '', { focus: moves = false, reveal: shows = true }: ValidateGateOptions = {}) {
      const nodes = findAll(paths);
      store.change(() => nodes.forEach((node) => store.rerun(node, SUBMIT, shows)));
      // Within an operation (a batch, a callback) nothing has run yet.
      if (store.isBusy) await Promise.resolve();
      const isPending = (): boolean => nodes.some(({ pending }) => pending > 0);
      while (isPending() && !store.isDisposed) await store.until(() => !isPending());
      if (store.isDisposed) return false;
      const valid = nodes.every((node) => store.isValid(node));
      if (!valid && moves) nodes.some((node) => store.page?.focusFirstError(node));
      return valid;
    },
    submit: (event?: unknown) => submission.submit(event),
    addFindings: (answer: readonly GivenFinding[] | ProblemDetails) => store.change(() => addVerdicts(store, verdictsOf(answer))),
    clearFindings: (paths: string | readonly string[] = '') =>
      store.change(() => findAll(paths).forEach((node) => node.forEach((each) => each.verdicts?.clearAdded()))),
    reset: (values?: unknown) =>
      store.change(() => {
        submission.abort();
        store.noteReset();
        root.restart(values, values !== undefined, true);
      }),
    rebase: (values: unknown) => store.change(() => root.rebase(values)),
    setContext: (token: ContextToken, value: unknown) => store.change(() => setContext(token, value)),
    setLocale: (catalogue: Catalogue | undefined) =>
      store.batch(() => {
        const before = store.catalogue?.locale;
        store.catalogue = catalogue;
        root.forEach((node) => {
          if (before !== catalogue?.locale) node.translate(before);
          node.reword();
          // Labels and hints are in it, too.
          store.markChanged(node);
        });
      }),
    subscribe: (listener: () => void) => gate.root.subscribe(listener),
    watch<T>(selector: (gate: unknown) => T, listener: (value: T, before: T) => void, equal: (a: T, b: T) => boolean = Object.is) {
      let value = atOnce(selector(gate));
      return gate.subscribe(() => {
        const before = value;
        value = atOnce(selector(gate));
        return equal(value, before) ? undefined : listener(value, before);
      });
    },
    on: events.on,
    dispose() {
      if (store.isDisposed) return;
      onDispose.forEach((callback) => callback());
      submission.abort();
      store.dispose();
    },
    toJSON: () => ({ ...jsonOf(store, root), findings: gate.findings, state: gate.state }),
    ...(DEV && { [Symbol.for('nodejs.util.inspect.custom')]: () => gate.toJSON() }),
  };
  return gate as unknown as Gate<N, R>;
}

/** The clock of the system, looked up at each call: tests may put another in its place. */
const SYSTEM_CLOCK: FormClock = {
  now: () => new Date(),
  setTimeout: (callback, milliseconds) => setTimeout(callback, milliseconds),
  clearTimeout: (timer) => clearTimeout(timer),
};
