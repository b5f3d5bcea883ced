// The plain page as the server draws it for whoever has no script: with what was sent, and what is wrong with it.

import { parseHTML } from 'linkedom';
import type { Finding } from 'upper-gate';

/** The value at a path of raw values. */
function at(raw: unknown, path: string): unknown {
  let value = raw;
  for (const key of path.split('.')) value = (value as Record<string, unknown> | null | undefined)?.[key];
  return value;
}

/** Gives a control the value that was sent for it. Files have to be picked again: no page may set them. */
function fill(control: HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement, raw: unknown): void {
  const sent = [at(raw, control.getAttribute('name')!) ?? []].flat().filter((value) => typeof value === 'string');
  const type = control.getAttribute('type');
  if (type === 'radio' || type === 'checkbox') control.toggleAttribute('checked', sent.includes(control.getAttribute('value') ?? 'on'));
  else if (control.localName === 'select')
    for (const option of control.querySelectorAll('option'))
      option.toggleAttribute('selected', sent.includes(option.getAttribute('value')!));
  else if (control.localName === 'textarea') control.textContent = sent[0] ?? '';
  else if (type !== 'file') control.setAttribute('value', sent[0] ?? '');
}

const pageOf = (document: Document): string => `<!doctype html>\n${document.documentElement.outerHTML}`;

/** Draws as many rows as were sent, after the first. */
function drawRows(document: Document, list: string, count: number): void {
  const first = document.querySelector(`[data-gate-row="${list}"]`)!;
  let last = first;
  for (let index = 1; index < count; index += 1) {
    const row = first.cloneNode(true) as Element;
    for (const element of row.querySelectorAll('*'))
      for (const { name, value } of [...element.attributes])
        element.setAttribute(name, value.replace(`${list}.0.`, `${list}.${index}.`).replace(`${list}-0-`, `${list}-${index}-`));
    row.querySelector('[data-gate-number]')!.textContent = String(index + 1);
    last.after(row);
    last = row;
  }
}

/**
 * Draws the form again.
 *
 * @param html the page
 * @param raw what was sent
 * @param findings what is wrong with it; told at the fields, and in the summary
 */
export function drawRefused(html: string, raw: unknown, findings: readonly Pick<Finding, 'path' | 'message' | 'severity'>[]): string {
  const { document } = parseHTML(html);
  const crew = at(raw, 'crew');
  drawRows(document, 'crew', Array.isArray(crew) ? Math.min(crew.length, 12) : 1);
  const controls = [...document.querySelectorAll<HTMLInputElement>('#booking :is(input, select, textarea)[name]')];
  for (const control of controls) fill(control, raw);

  const items = findings.flatMap(({ path, message, severity }) => {
    const told = document.createElement('span');
    told.dataset['gateSeverity'] = severity;
    told.textContent = message;
    document.querySelector(`[data-gate-messages="${path}"]`)?.append(told);
    const control = controls.find((each) => each.getAttribute('name') === path);
    if (severity === 'error') control?.setAttribute('aria-invalid', 'true');
    control?.setAttribute('data-gate-state', severity);
    if (severity !== 'error') return [];
    const item = document.createElement('li');
    const link = document.createElement('a');
    if (control) {
      if (control.id === '') control.id = `field-${path}`;
      link.setAttribute('href', `#${control.id}`);
    }
    link.textContent = message;
    item.append(link);
    return item;
  });
  const heading = document.createElement('h2');
  heading.textContent = 'This booking cannot be taken as it is';
  const list = document.createElement('ul');
  list.append(...items);
  const summary = document.querySelector('[data-gate-summary]')!;
  summary.replaceChildren(heading, list);
  summary.removeAttribute('hidden');
  return pageOf(document);
}

/** Draws the page of a booking that was taken. */
export function drawBooked(html: string, vessel: string, reference: string): string {
  const { document } = parseHTML(html);
  const told = document.querySelector<HTMLElement>('#outcome')!;
  for (const line of [`Booked: ${vessel}.`, `Your reference is ${reference}.`]) {
    const paragraph = document.createElement('p');
    paragraph.textContent = line;
    told.append(paragraph);
  }
  document.querySelector('#booking')!.replaceWith(told);
  return pageOf(document);
}
