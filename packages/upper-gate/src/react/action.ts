// Form actions (React 19): the function that a form is sent to, on a server or not.

import * as React from 'react';
import { DEV, explain } from '#development';
import { formDataOf, type FormAction } from '../binding/index.ts';
import { assertUse } from '../schema/assertUse.ts';

/** Hooks of React 19 that earlier versions lack. */
const { useActionState }: Partial<typeof React> = React;

const NO_ACTION = (): undefined => undefined;

/**
 * The answer to a form that was sent without this component: posted before there was script, or by React itself while the
 * page was taken over.
 *
 * @returns the answer, and what the form is sent to then
 */
export function useAnswer(
  action: FormAction<unknown> | undefined,
  posted: unknown,
): { readonly answer: unknown; readonly post: ((data: FormData) => void) | undefined } {
  assertUse(
    !action || useActionState !== undefined,
    DEV && explain('action-needs-react-19', 'useGate({ action }) needs React 19. With an earlier version use the option submit.'),
  );
  // Of one version of React either always or never.
  if (!useActionState) return { answer: posted, post: undefined };
  // eslint-disable-next-line react-hooks/rules-of-hooks
  const [answer, post] = useActionState<unknown, FormData>(action ?? NO_ACTION, posted);
  return { answer, post: action && post };
}

/**
 * Sends a form to its action, as a transition: what that changes on the page is drawn together.
 *
 * @returns its answer
 */
export const runAction = (action: FormAction<unknown>, before: unknown, form: HTMLFormElement | null, event: unknown): Promise<unknown> =>
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
