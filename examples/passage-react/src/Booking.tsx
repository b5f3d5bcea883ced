// The booking, drawn by React from the schema of the plain page.

import { book, referenceIn, setWeather, type Weather } from 'lock-passage/client';
import { BEGINNING } from 'lock-passage/passage';
import { CATALOGUES, LANGUAGES, rememberedLanguage, say as sayIn, speak, type Language, type Word } from 'lock-passage/words';
import { useCallback, useEffect, useState } from 'react';
import { keepDraft } from 'upper-gate';
import { useGate } from 'upper-gate/react';
import { Say } from './fields.tsx';
import { Aboard, Boat, Outcome, passage, Reach, SendButton, Summary, Voyage } from './parts.tsx';

export function Booking() {
  const [language, setLanguage] = useState(rememberedLanguage);
  useEffect(() => speak(language), [language]);
  const say = useCallback((word: Word, values?: Readonly<Record<string, string>>) => sayIn(language, word, values), [language]);
  const [outcome, tell] = useState<readonly string[]>();
  const [restored, setRestored] = useState(false);
  const { gate, form } = useGate(passage, {
    initial: BEGINNING,
    messages: CATALOGUES[language],
    submit: (data, { signal }) => book(data, signal),
  });

  useEffect(() => {
    const draft = keepDraft(gate, { storage: () => localStorage, key: 'passage-react', maxAge: 7 * 24 * 3600 * 1000 });
    setRestored(draft.restored);
    return () => draft.stop();
  }, [gate]);
  useEffect(() => {
    const undo = [
      gate.on('submit', () => tell(undefined)),
      gate.on('failed', (error) => console.warn('Not sent:', error)),
      gate.on('accepted', ({ data: { vessel, arrival, slot, email }, reply }) => {
        void referenceIn(reply).then((reference) =>
          tell([say('booked', { vessel, arrival, slot }), say('reference', { reference, email })]),
        );
      }),
    ];
    return () => undo.forEach((each) => each());
  }, [gate, say]);

  return (
    <Say value={say}>
      <header className="top">
        <div className="inner">
          <p className="place">{say('place')}</p>
          <h1>{say('title')}</h1>
          <p>{say('lead')}</p>
          <p className="language">
            <label htmlFor="language">{say('language')}</label>
            <select id="language" value={language} onChange={({ target }) => setLanguage(target.value as Language)}>
              {Object.entries(LANGUAGES).map(([value, name]) => (
                <option key={value} value={value} lang={value}>
                  {name}
                </option>
              ))}
            </select>
          </p>
        </div>
      </header>
      <main className="inner">
        <form {...form} action="/api/bookings" method="post" encType="multipart/form-data">
          <Summary gate={gate} />
          {restored && (
            <p id="restored" role="status">
              {say('restored')}
            </p>
          )}
          <Boat gate={gate} />
          <Voyage gate={gate} />
          <Aboard gate={gate} />
          <Reach gate={gate} />
          <Outcome told={outcome} />
          <p className="actions">
            <SendButton gate={gate} />
            <button type="reset" className="quiet">
              {say('over')}
            </button>
          </p>
        </form>
        <WeatherSwitch />
      </main>
    </Say>
  );
}

function WeatherSwitch() {
  return (
    <aside className="card demo" aria-label="For this demo only" lang="en" dir="ltr">
      <fieldset id="weather" onChange={({ target }) => setWeather((target as unknown as HTMLInputElement).value as Weather)}>
        <legend>For this demo only: the server is</legend>
        <span className="options">
          {(['fair', 'slow', 'gone'] as const).map((weather) => (
            <label key={weather}>
              <input type="radio" name="weather" value={weather} defaultChecked={weather === 'fair'} />{' '}
              {{ fair: 'quick', slow: 'slow', gone: 'unreachable' }[weather]}
            </label>
          ))}
        </span>
      </fieldset>
      <p>
        On the register: <code>OT-1204</code> Otter, <code>HE-2210</code> Heron, <code>KF-3307</code> Kingfisher. Booked already:{' '}
        <code>MA-4001</code> Mallard.
      </p>
      <p>
        <a href="/">All examples</a>
      </p>
    </aside>
  );
}
