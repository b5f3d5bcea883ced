// The gate of a form that is also posted without script: to an action (React 19), or to an address.

import * as React from 'react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { DEV, explain } from '#development';
import { formDataOf, takePosted, type ActionPosting, type FormAction, type Posting } from '../binding/index.ts';
import type { Gate } from '../gate/gate.ts';
import { assertUse } from '../schema/assertUse.ts';
import type { Node } from '../schema/node.ts';
import { refOf } from './refOf.ts';
import { useGate, type FormBundle, type UseGateOptions } from './useGate.ts';

/** Hooks of React 19 that earlier versions lack. */
const { useActionState }: Partial<typeof React> = React;

/** Attributes for the `<form>` of an action. */
export interface ActionFormBundle extends FormBundle {
  /** Where the form is sent without script. */
  readonly action: (data: FormData) => void;
}

/** A form that works without script, too. `A` is what its action answers, `P` what the page came with. */
export interface PostedGate<N extends Node, A, P, F extends FormBundle = FormBundle> {
  readonly gate: Gate<N, A>;
  readonly form: F;
  /** What the action answered last, also before there was script; until then `posted`. The component renders again as it changes. */
  readonly answer: Awaited<A> | P | undefined;
}

/** The options of `usePostedGate`: those of `useGate`, and what the server answered to the form before there was script. */
export type PostedOptions<N extends Node, P, R = unknown> = UseGateOptions<N, R> & Posting<P>;

/** The options of `usePostedGate` with an action, in place of `submit`. */
export type ActionOptions<N extends Node, A, P> = Omit<UseGateOptions<N>, 'submit'> & ActionPosting<A, P>;

const NO_ACTION = (): undefined => undefined;

/** Sends a form to its action, as a transition: what that changes on the page is drawn together. @returns its answer */
const runAction = (action: FormAction<unknown>, before: unknown, form: HTMLFormElement | null, event: unknown): Promise<unknown> =>
  new Promise((resolve, reject) => {
    const data = formDataOf(form, event);
    React.startTransition(async () => {
      try {
        resolve(await action(before, data));
      } catch (error) {
        reject(error);
      }
    });
  });

/**
 * Makes the gate of a form that works without script, too: with `action`, a server function or any other, in place of `submit`; with
 * `posted`, what a server answered to the form before there was script. Else as `useGate`.
 *
 * @param schema the schema
 * @param options as of `useGate`, with `action` and `posted`; `action` may be another function at each render, the latest is called
 * @returns the gate, what to spread on the `<form>`, and the last answer
 * @throws TypeError for `action` before React 19
 *
 * @example
 * const { gate, form, answer } = usePostedGate(passage, { action: book }); // a server function (before, data: FormData) => answer
 * return <form {...form}>...</form>;
 *
 * @example
 * const { gate, form } = usePostedGate(passage, {
 *   action: (before, data) => fetch('/bookings', { method: 'POST', body: data }),
 *   posted: { raw, findings },
 * });
 * return <form {...form} action="/bookings" method="post">...</form>;
 */
export function usePostedGate<N extends Node, A, P = Awaited<A>>(
  schema: N,
  options: ActionOptions<N, A, P>,
): PostedGate<N, A, P, ActionFormBundle>;
export function usePostedGate<N extends Node, P, R = unknown>(schema: N, options: PostedOptions<N, P, R>): PostedGate<N, R, P>;
export function usePostedGate<N extends Node>(
  schema: N,
  options: UseGateOptions<N> & { readonly action?: FormAction<unknown> | undefined; readonly posted?: unknown },
): PostedGate<N, unknown, unknown> {
  const { action, posted } = options;
  assertUse(
    !action || useActionState !== undefined,
    DEV && explain('action-needs-react-19', 'usePostedGate({ action }) needs React 19. With an earlier version use the option submit.'),
  );
  // (Of one version of React either always or never.)
  // eslint-disable-next-line react-hooks/rules-of-hooks
  const [answer, post] = useActionState ? useActionState<unknown, FormData>(action ?? NO_ACTION, posted) : [posted, undefined];
  const before = useRef(answer);
  /** What the action has answered to the script, and what it had answered without it by then. */
  const [late, setLate] = useState({ answer, after: answer });
  const latest = late.after === answer ? late.answer : answer;
  const element = useRef<HTMLFormElement | null>(null);
  const { gate, form } = useGate(schema, {
    ...options,
    ...(action && {
      async submit(_, { event }) {
        before.current = await runAction(action, before.current, element.current, event);
        setLate({ answer: before.current, after: answer });
        return before.current;
      },
    }),
  });
  // At once: the server draws what was posted.
  const taken = useRef<Gate<N> | null>(null);
  if (taken.current === null) {
    taken.current = gate;
    takePosted(gate, answer);
  }
  const shown = useRef(answer);
  useEffect(() => {
    // React has sent the form itself, before this component was there.
    if (shown.current !== answer) takePosted(gate, (before.current = answer));
    shown.current = answer;
  }, [gate, answer]);
  const ref = useMemo(
    () =>
      refOf((given: HTMLFormElement) => {
        element.current = given;
        form.ref(given);
        return () => {
          element.current = null;
          form.ref(null);
        };
      }),
    [form],
  );
  const sent = action && post;
  return useMemo(() => ({ gate, form: sent ? { ref, action: sent } : { ref }, answer: latest }), [gate, ref, sent, latest]);
}
