// Changing a booking on a plain page: /booked.html?reference=FF-10000

import { bindForm, templateRows } from 'upper-gate/dom';
import { heardOf, openBooking, textOf, type Keeping } from './keeping.ts';
import './inspecting.ts';
import './style.css';

const find = (id: string): HTMLElement => document.getElementById(id)!;
const reference = new URLSearchParams(location.search).get('reference') ?? '';
const [notice, choice] = find('news').querySelectorAll('p');
const list = find('news').querySelector('ul')!;

/** Writes how the saving stands, and what somebody else has changed. */
function write({ state, news }: Keeping): void {
  find('saving').textContent = textOf(state);
  find('heard').textContent = heardOf(state);
  const { taken = [], disputed = [] } = news ?? {};
  find('news').hidden = taken.length + disputed.length === 0;
  choice!.hidden = disputed.length === 0;
  notice!.textContent = [
    ...(taken.length > 0 ? [`Somebody else has changed: ${taken.join(', ')}. It is shown here.`] : []),
    ...(disputed.length > 0 ? ['You and somebody else have changed the same. Whose is right?'] : []),
  ].join(' ');
  list.replaceChildren(
    ...disputed.map(({ label, theirs }) => {
      const item = document.createElement('li');
      item.textContent = `${label}, theirs: ${theirs}`;
      return item;
    }),
  );
}

try {
  const keeping = await openBooking(reference);
  const { gate, booking } = keeping;
  find('which').textContent = `${booking.vessel}, ${booking.arrival}, ${booking.slot}. Reference ${booking.reference}.`;
  bindForm(find('booked') as HTMLFormElement, gate, { rows: templateRows });
  find('booked').hidden = false;
  choice!.addEventListener('click', ({ target }) => {
    const { whose } = (target as HTMLElement).dataset;
    if (whose === 'mine' || whose === 'theirs') keeping.settle(whose);
  });
  keeping.subscribe(() => write(keeping));
  write(keeping);
} catch (error) {
  find('saving').textContent = find('heard').textContent = error instanceof Error ? error.message : String(error);
}
