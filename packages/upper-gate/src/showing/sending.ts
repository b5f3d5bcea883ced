// The browser sends a form itself: one that says where it goes, whose gate has no handler; or whose handler asks for it by `form.submit()`.

import { DEV, explain, warnOnce } from '#development';
import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import { isControl, nameOf } from './controls.ts';
import { isElement } from './page.ts';
import { handleAt } from './variants.ts';

/** Milliseconds for a request to leave. A page that stays then (a download, another window) may send the form again. */
const LEAVING = 1000;

/** What sends a form. */
export interface Sending {
  /** The button that the user has pressed last, to send the form. */
  submitter: HTMLElement | null;
  /** Whether the browser is sending what was validated: nothing is to stop that. */
  readonly isPassing: boolean;
  readonly undo: () => void;
}

/** Whether a form, or its button, says where it goes. (React's own actions are no addresses.) */
function saysWhere(form: HTMLFormElement, submitter: HTMLElement | null): boolean {
  const said = (name: string): string | null => submitter?.getAttribute(`form${name}`) ?? form.getAttribute(name);
  return said('method')?.toLowerCase() === 'dialog' || /^(?!\s*javascript:)/i.test(said('action') ?? 'javascript:');
}

/** Lets the browser send a form. */
export function startSending(form: HTMLFormElement, gate: AnyGate): Sending {
  const { store } = internalsOf(gate);
  const native = HTMLFormElement.prototype;

  /** What does not apply is not sent. */
  const leftOut = (): readonly Element[] =>
    [...form.elements].filter(
      (control) => isControl(control) && !control.matches(':disabled') && handleAt(gate, nameOf(control))?.applies === false,
    );

  const pass = (submitter: HTMLElement | null): void => {
    const left = leftOut();
    sending.isPassing = true;
    try {
      left.forEach((control) => control.toggleAttribute('disabled', true));
      try {
        native.requestSubmit.call(form, submitter);
      } catch {
        // The button is gone, or it is none of HTML's.
        native.requestSubmit.call(form);
      }
    } finally {
      sending.isPassing = false;
      left.forEach((control) => control.toggleAttribute('disabled', false));
    }
  };

  const sending = {
    submitter: null as HTMLElement | null,
    isPassing: false,
    undo() {
      // The gate may have another form by now.
      if (store.sendForm === sendForm) store.sendForm = undefined;
      // Back to what all forms have. (Not by `delete`, which throws for a control of that name.)
      Reflect.deleteProperty(form, 'submit');
    },
  };
  const sendForm: typeof store.sendForm = (event, signal) => {
    const given = (event as { readonly submitter?: unknown } | undefined)?.submitter;
    const submitter = isElement(given) ? given : null;
    if (!saysWhere(form, submitter)) return undefined;
    return new Promise((resolve) => {
      // (While an event to submit is under way, a form cannot be submitted.)
      setTimeout(() => {
        if (signal.aborted) return resolve();
        // (Of the page of the form, which may be in a frame.)
        const page = form.ownerDocument.defaultView;
        const stay = (): void => {
          store.isPosting = false;
          page?.removeEventListener('pageshow', stay);
          resolve();
        };
        // Back from the history, or never away.
        page?.addEventListener('pageshow', stay);
        setTimeout(stay, LEAVING);
        store.isPosting = true;
        pass(submitter);
      });
    });
  };
  store.sendForm = sendForm;
  // A handler may have the form sent once it is done. (Not by assignment: a control may have that name.)
  Reflect.set(form, 'submit', () => {
    if (gate.state.status === 'sending') return void setTimeout(() => pass(sending.submitter));
    if (DEV) warnOnce(form, () => [explain('form-submit', 'form.submit() bypasses validation. Call form.requestSubmit() instead.')]);
    native.submit.call(form);
  });
  return sending;
}
