// The booking on a page of HTML, whoever binds its form: its gate, and what the page says around it.

import { createGate, keepDraft } from 'upper-gate';
import { askRegister, book, referenceIn, setWeather, type Weather } from './client.ts';
import { BEGINNING, passageForm } from './passage.ts';
import './inspecting.ts';
import './style.css';
import { CATALOGUES, LANGUAGES, rememberedLanguage, say, speak, type Language, type Word } from './words.ts';

function get<T extends HTMLElement>(id: string): T {
  const element = document.getElementById(id);
  if (!element) throw new Error(`The page has no #${id}.`);
  return element as T;
}

let language = rememberedLanguage();
const outcome = get('outcome');

/** Makes the gate of the booking, with a draft that is kept. */
export function makeBooking() {
  const gate = createGate(passageForm(askRegister), {
    initial: BEGINNING,
    submit: (passage, { signal }) => book(passage, signal),
    messages: CATALOGUES[language],
  });
  return { gate, draft: keepDraft(gate, { storage: () => localStorage, key: 'passage', maxAge: 7 * 24 * 3600 * 1000 }) };
}

/** Has the page follow the booking. */
export function follow({ gate, draft }: ReturnType<typeof makeBooking>): void {
  gate.on('submit', () => outcome.replaceChildren());
  gate.on('failed', (error) => console.warn('Not sent:', error));
  gate.on('accepted', ({ data, reply }) => {
    const { vessel, arrival, slot, email } = data;
    void referenceIn(reply).then((reference) =>
      tell(say(language, 'booked', { vessel, arrival, slot }), say(language, 'reference', { reference, email })),
    );
  });

  /** Shows that the passage is booked, and moves the focus there. */
  function tell(...lines: string[]): void {
    outcome.replaceChildren(
      ...lines.map((line) => {
        const paragraph = document.createElement('p');
        paragraph.textContent = line;
        return paragraph;
      }),
    );
    outcome.focus();
  }

  /** Writes what the page says beside the form. */
  function write(): void {
    speak(language);
    const rows = [...document.querySelectorAll('template')].map(({ content }) => content);
    for (const part of [document, ...rows])
      for (const element of part.querySelectorAll<HTMLElement>('[data-word]'))
        element.textContent = say(language, element.dataset['word'] as Word);
    get('restored').textContent = draft.restored && !gate.state.touched ? say(language, 'restored') : '';
    writeButton();
  }

  function writeButton(): void {
    const { status } = gate.state;
    get('send').textContent = say(language, status === 'checking' ? 'checking' : status === 'sending' ? 'sending' : 'send');
  }
  gate.watch(({ state }) => state.status, writeButton);

  const languages = get<HTMLSelectElement>('language');
  languages.replaceChildren(
    ...Object.entries(LANGUAGES).map(([value, name]) => Object.assign(new Option(name, value, false, value === language), { lang: value })),
  );
  languages.addEventListener('change', () => {
    language = languages.value as Language;
    gate.setLocale(CATALOGUES[language]);
    write();
  });
  write();

  get('weather').addEventListener('change', (event) => setWeather((event.target as HTMLInputElement).value as Weather));
}
