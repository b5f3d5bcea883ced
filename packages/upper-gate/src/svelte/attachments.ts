// What ties elements to a form: attachments, under keys that a spread takes along.

import { tick, untrack } from 'svelte';
import { createAttachmentKey, type Attachment } from 'svelte/attachments';
import type { View } from '../binding/index.ts';

/** An attachment, as a spread takes it along: `<input {...field.input}>`. */
export interface Attached {
  readonly [key: symbol]: Attachment<HTMLElement>;
}

const known = new WeakMap<object, Attached>();

/**
 * The same attachment for the same tie: Svelte would else tie anew at each change.
 *
 * @param tie ties an element
 * @param view what describes the element, after each drawing
 */
export function attached(
  tie: (element: HTMLElement) => () => void,
  view?: Pick<View<unknown>, 'subscribe'> & { readonly describe: () => void },
): Attached {
  let attachment = known.get(tie);
  if (!attachment) {
    attachment = {
      [createAttachmentKey()]: (element: HTMLElement) =>
        // (What an author's functions read there is nothing to attach again for.)
        untrack(() => {
          const undo = [tie(element)];
          if (view) undo.push(view.subscribe(() => void tick().then(view.describe)));
          return () => undo.forEach((each) => each());
        }),
    };
    known.set(tie, attachment);
  }
  return attachment;
}
