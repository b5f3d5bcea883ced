// Sending a form to a function, as the browser would send it.

import { DEV } from '#development';
import { assertUse } from '../schema/assertUse.ts';

/**
 * An action: gets what it answered last (before that, what the page came with), and the data of the form. Its answer accepts or refuses,
 * as that of the option `submit` does.
 */
export type FormAction<A, P = Awaited<A>> = (before: Awaited<A> | P | undefined, data: FormData) => A;

/** The options of a form that is posted to an action, with or without script. */
export interface ActionPosting<A, P> {
  /** Gets the `FormData` that the browser would send, once everything is valid. Its answer accepts or refuses, as with `submit`. */
  readonly action: FormAction<A, P>;
  /** The answer of the server, if the form was posted without script: `{ raw, findings }`, or problem details with `raw`. */
  readonly posted?: P | undefined;
}

/** The same of a form without an action. */
export interface Posting<P> extends Pick<ActionPosting<never, P>, 'posted'> {
  readonly action?: undefined;
}

/**
 * Returns the data of a form as the browser would send it, with the name and value of the button.
 *
 * @param form the form element
 * @param event the submit event, which knows the button
 * @returns the data of the form
 */
export function formDataOf(form: HTMLFormElement | null, event: unknown): FormData {
  assertUse(
    form !== null,
    DEV && 'The form is not on the page, so there is nothing to send. Spread the bundle "form" on the <form> element.',
  );
  return new FormData(form, (event as Partial<SubmitEvent> | undefined)?.submitter);
}
