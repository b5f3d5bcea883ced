// The plain page as the server draws it for whoever has no script.

import { parseHTML } from 'linkedom';
import { redrawForm, type RedrawOptions } from 'upper-gate/server';

/** Draws the form again, with what was sent and what is wrong with it. */
export const drawRefused = (html: string, options: Omit<RedrawOptions, 'form'>): Promise<string> =>
  redrawForm(html, { form: 'booking', ...options });

/** Draws the page of a booking that was taken. */
export function drawBooked(html: string, vessel: string, reference: string): string {
  const { document } = parseHTML(html);
  const outcome = document.querySelector<HTMLElement>('#outcome')!;
  for (const line of [`Booked: ${vessel}.`, `Your reference is ${reference}.`]) {
    const paragraph = document.createElement('p');
    paragraph.textContent = line;
    outcome.append(paragraph);
  }
  document.querySelector('#booking')!.replaceWith(outcome);
  return `<!doctype html>\n${document.documentElement.outerHTML}`;
}
