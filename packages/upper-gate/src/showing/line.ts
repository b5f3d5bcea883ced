// The line above the form: what is wrong with the form as a whole, and what nothing else on the page can show. A page without one gets
// one as soon as there is something to say, so that nothing is ever silent.

import type { AnyGate } from '../gate/gate.ts';
import { internalsOf } from '../gate/internals.ts';
import type { AttributeWriter } from './attributes.ts';
import type { Announcer } from './announcer.ts';
import { tie } from './connect.ts';
import { sameListBy } from './errors.ts';
import { focusFilled } from './focus.ts';
import { showIn } from './messages.ts';
import { activeIn, afterDrawing, hasFocus } from './page.ts';
import { lineOf, type LineMessage } from './plan/line.ts';
import { textOf } from './plan/messages.ts';
import { followStrays, type Strays } from './strays.ts';

/** How long it may take until the line has the focus, in milliseconds. */
const LINE_DELAY = 100;

/** The line of a form. */
export interface FormLine {
  readonly messages: readonly LineMessage[];
  readonly isLost: Strays['isLost'];
  readonly undo: () => void;
}

/**
 * Fills the line above a form, and announces what it says, unless it takes the focus.
 *
 * @param place where the author wants it
 */
export function startLine(
  form: HTMLFormElement,
  gate: AnyGate,
  attributes: AttributeWriter,
  announcer: Announcer,
  place: HTMLElement | undefined,
): FormLine {
  const { places } = internalsOf(gate);
  const { ownerDocument } = form;
  const strays = followStrays(gate);
  const line = place ?? document.createElement('div');
  let messages: readonly LineMessage[] = [];
  let said = '';
  let isOver = false;
  if (place) attributes.set(line, 'tabindex', '-1');
  else {
    line.tabIndex = -1;
    line.dataset['gateMessages'] = '';
  }

  /** The same object while it stays the same. */
  const read = (): readonly LineMessage[] => {
    const now = lineOf(gate.root.shown, strays.read(), places.summary?.isListing() === true);
    if (!sameListBy(now, messages, (a, b) => a.message === b.message && a.severity === b.severity)) messages = now;
    return messages;
  };
  const elements = (): readonly (HTMLElement | undefined)[] =>
    [places.summary?.element, places.line ?? line] as readonly unknown[] as readonly (HTMLElement | undefined)[];
  const render = (): void => {
    read();
    // Its author may draw it, if only from now on.
    if (places.line) line.remove();
    else {
      if (!place && messages.length > 0 && !line.isConnected) form.prepend(line);
      showIn(line, messages);
    }
    const text = textOf(messages);
    if (text === said) return;
    said = text;
    // The line is about to take the focus, then it is read anyway.
    setTimeout(() => {
      const isRead = elements().some((each) => each && hasFocus(each) && each.textContent.includes(text));
      if (text !== '' && text === said && !isRead && !isOver) announcer.say(text, () => said === text);
    }, LINE_DELAY);
    announcer.update();
  };
  const focus = (): boolean => focusFilled(...elements());
  const undo = [
    gate.subscribe(render),
    tie(gate.root, {
      focus: () => {
        const active = activeIn(ownerDocument);
        // What there is to read may only be drawn by then.
        if (!focus()) afterDrawing(() => isOver || activeIn(ownerDocument) !== active || focus());
        return true;
      },
    }),
    strays.undo,
  ];
  render();
  return {
    get messages() {
      return read();
    },
    isLost: strays.isLost,
    undo() {
      isOver = true;
      undo.forEach((each) => each());
      if (place) place.replaceChildren();
      else line.remove();
    },
  };
}
