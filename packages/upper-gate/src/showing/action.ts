// Sending a form to a function, as the browser would send it.

import { DEV } from '#development';
import { assertUse } from '../schema/assertUse.ts';

/**
 * What a form is sent to: gets its last answer, and the form's data. Returns what accepts or refuses, as the option `submit`.
 */
export type FormAction<A> = (before: Awaited<A> | undefined, data: FormData) => A;

/**
 * The data of a form as the browser would send it: with the button's name and value.
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
