// The booking page.

import { createGate } from 'upper-gate';
import { bindForm } from 'upper-gate/dom';
import { askRegister, book, setWeather, type Weather } from './client.ts';
import { passageForm, SLOTS } from './passage.ts';
import './style.css';

function get<T extends HTMLElement>(id: string): T {
  const element = document.getElementById(id);
  if (!element) throw new Error(`The page has no #${id}.`);
  return element as T;
}

const form = get<HTMLFormElement>('booking');
const outcome = get('outcome');

const gate = createGate(passageForm(askRegister), {
  initial: { crew: 2 },
  submit: (passage, { signal }) => book(passage, signal),
});

bindForm(form, gate);

gate.on('submit', () => outcome.replaceChildren());
gate.on('failed', () =>
  tell('trouble', 'The booking office cannot be reached just now.', 'Everything you entered is still here. Please try again.'),
);
gate.on('accepted', ({ data, reply }) => {
  void (async () => {
    const { reference } = (await (reply as Response).json()) as { reference: string };
    const slot = `${SLOTS[data.slot]} lockage, ${data.slot}`;
    tell(
      'booked',
      `Booked: ${data.vessel}, ${data.arrival}, ${slot}.`,
      `Your reference is ${reference}. A confirmation goes to ${data.email}.`,
    );
  })();
});

/** Says how a submission ended, and brings it before the person. */
function tell(kind: 'booked' | 'trouble', ...lines: string[]): void {
  outcome.dataset['kind'] = kind;
  outcome.replaceChildren(
    ...lines.map((line) => {
      const paragraph = document.createElement('p');
      paragraph.textContent = line;
      return paragraph;
    }),
  );
  outcome.focus();
}

const button = get('send');
const said = button.textContent;
gate.watch(
  ({ state }) => state.status,
  (status) => {
    button.textContent = status === 'checking' ? 'Checking …' : status === 'sending' ? 'Sending …' : said;
  },
);

get('weather').addEventListener('change', (event) => setWeather((event.target as HTMLInputElement).value as Weather));
