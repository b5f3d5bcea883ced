/** @jsxImportSource solid-js */
// The booking, drawn by Solid from the schema of the plain page.

import { askRegister, book, referenceIn, setWeather, type Weather } from 'lock-passage/client';
import { BEGINNING, passageForm } from 'lock-passage/passage';
import { CATALOGUES, LANGUAGES, rememberedLanguage, say as sayIn, speak, type Language, type Word } from 'lock-passage/words';
import { createEffect, createSignal, For, onCleanup, Show } from 'solid-js';
import { keepDraft, type Gate } from 'upper-gate';
import { useGate, useGateList, useGateState, useGateSummary } from 'upper-gate/solid';
import { Card, Choices, Field, Messages, Say, Tick, useSay } from './fields.tsx';

const passage = passageForm(askRegister);
interface PartProps {
  readonly gate: Gate<typeof passage>;
}

export function Booking() {
  const [language, setLanguage] = createSignal(rememberedLanguage());
  createEffect(() => speak(language()));
  const say = (word: Word, values?: Readonly<Record<string, string>>): string => sayIn(language(), word, values);
  const { gate, form } = useGate(passage, {
    initial: BEGINNING,
    messages: () => CATALOGUES[language()],
    submit: (data, { signal }) => book(data, signal),
  });
  const draft = keepDraft(gate, { storage: () => localStorage, key: 'passage-solid', maxAge: 7 * 24 * 3600 * 1000 });
  onCleanup(() => draft.stop());

  const status = useGateState(gate, ({ state }) => state.status);
  const sends = () => {
    const now = status();
    return now === 'checking' || now === 'sending' ? now : 'send';
  };
  const [outcome, setOutcome] = createSignal<readonly string[]>([]);
  let place!: HTMLDivElement;
  gate.on('submit', () => setOutcome([]));
  gate.on('failed', (error) => console.warn('Not sent:', error));
  gate.on('accepted', ({ data: { vessel, arrival, slot, email }, reply }) => {
    void referenceIn(reply).then((reference) => {
      setOutcome([say('booked', { vessel, arrival, slot }), say('reference', { reference, email })]);
      place.focus();
    });
  });

  return (
    <Say.Provider value={say}>
      <header class="top">
        <div class="inner">
          <p class="place">{say('place')}</p>
          <h1>{say('title')}</h1>
          <p>{say('lead')}</p>
          <p class="language">
            <label for="language">{say('language')}</label>
            <select id="language" onChange={({ target }) => setLanguage(target.value as Language)}>
              <For each={Object.entries(LANGUAGES)}>
                {([value, name]) => (
                  <option value={value} lang={value} selected={value === language()}>
                    {name}
                  </option>
                )}
              </For>
            </select>
          </p>
        </div>
      </header>
      <main class="inner">
        <form {...form} action="/api/bookings" method="post" enctype="multipart/form-data">
          <Summary gate={gate} />
          <Show when={draft.restored}>
            <p id="restored" role="status">
              {say('restored')}
            </p>
          </Show>
          <Card title="boat">
            <Field gate={gate} of={gate.field('vessel')} autocomplete="off" />
            <Field gate={gate} of={gate.field('registration')} autocomplete="off" spellcheck="false" />
            <Field gate={gate} of={gate.field('lengthM')} layout="third" type="number" step="any" inputmode="decimal" />
            <Field gate={gate} of={gate.field('beam')} layout="third" type="number" step="any" inputmode="decimal" />
            <Field gate={gate} of={gate.field('kind')} layout="third" as="select">
              {say('choose')}
            </Field>
            <Field gate={gate} of={gate.field('insurance')} layout="wide" accept=".pdf,image/*" />
          </Card>
          <Card title="passage">
            <Field gate={gate} of={gate.field('arrival')} layout="third" />
            <Field gate={gate} of={gate.field('window.from')} layout="third" />
            <Field gate={gate} of={gate.field('window.to')} layout="third" />
            <Choices gate={gate} of={gate.field('slot')} valueToo />
          </Card>
          <Card title="aboard">
            <Crew gate={gate} />
            <Cargo gate={gate} />
            <Choices gate={gate} of={gate.field('kit')} />
          </Card>
          <Card title="reach">
            <Field gate={gate} of={gate.field('email')} type="email" autocomplete="email" />
            <Field gate={gate} of={gate.field('emailAgain')} type="email" autocomplete="email" />
            <Tick gate={gate} of={gate.field('callBack')} />
            <Field gate={gate} of={gate.field('phone')} type="tel" autocomplete="tel" />
            <Field gate={gate} of={gate.field('remarks')} layout="wide" as="textarea" rows={3} />
            <Tick gate={gate} of={gate.field('terms')} plain />
          </Card>

          <div id="outcome" ref={place} tabindex="-1">
            <For each={outcome()}>{(line) => <p>{line}</p>}</For>
          </div>
          <p class="actions">
            <button id="send" type="submit">
              {say(sends())}
            </button>
            <button type="reset" class="quiet">
              {say('over')}
            </button>
          </p>
        </form>
        <WeatherSwitch />
      </main>
    </Say.Provider>
  );
}

function Summary(props: PartProps) {
  const summary = useGateSummary(() => props.gate);
  return (
    <>
      <section class="summary" {...summary.place}>
        <h2 {...summary.heading}>{summary.text}</h2>
        <ul>
          <For each={summary.errors}>{(error) => <li>{error.element ? <a {...summary.link(error)}>{error.text}</a> : error.text}</li>}</For>
        </ul>
      </section>
      <div class="whole" {...summary.line}>
        <Messages shown={summary.lineMessages} />
      </div>
    </>
  );
}

function Crew(props: PartProps) {
  const say = useSay();
  const crew = useGateList(() => props.gate, 'crew');
  return (
    <fieldset class="wide crew">
      <legend>{crew.label}</legend>
      <For each={crew.rows}>
        {(row, index) => (
          <fieldset class="row wide">
            <legend>
              {say('member')} {index() + 1}
            </legend>
            <Field gate={props.gate} of={row.field('name')} autocomplete="off" />
            <Field gate={props.gate} of={row.field('age')} type="number" inputmode="numeric" />
            <span class="tools">
              <button type="button" class="quiet" data-gate-move="up" onClick={() => crew.move(index(), index() - 1)}>
                {say('up')}
              </button>
              <button type="button" class="quiet" onClick={() => crew.remove(index())}>
                {say('remove')}
              </button>
            </span>
          </fieldset>
        )}
      </For>
      <span class="messages" {...crew.messages}>
        <Messages shown={crew.shown} />
      </span>
      <button {...crew.button} class="quiet" data-gate-add="crew" onClick={() => crew.add()}>
        {say('addMember')}
      </button>
    </fieldset>
  );
}

function Cargo(props: PartProps) {
  const load = useGateState(
    () => props.gate,
    (gate) => gate.field('cargo.load').data,
  );
  return (
    <>
      <Choices gate={props.gate} of={props.gate.field('cargo.load')} />
      <Show when={load() && load() !== 'none'}>
        <Field gate={props.gate} of={props.gate.field('cargo.what')} layout="third" autocomplete="off" />
        <Field gate={props.gate} of={props.gate.field('cargo.tonnes')} layout="third" type="number" step="any" inputmode="decimal" />
      </Show>
      <Show when={load() === 'dangerous'}>
        <Field gate={props.gate} of={props.gate.field('cargo.permit')} layout="third" autocomplete="off" />
      </Show>
    </>
  );
}

function WeatherSwitch() {
  return (
    <aside class="card demo" aria-label="For this demo only" lang="en" dir="ltr">
      <fieldset id="weather" onChange={({ target }) => setWeather((target as unknown as HTMLInputElement).value as Weather)}>
        <legend>For this demo only: the server is</legend>
        <span class="options">
          <For each={Object.entries({ fair: 'quick', slow: 'slow', gone: 'unreachable' })}>
            {([weather, name]) => (
              <label>
                <input type="radio" name="weather" value={weather} checked={weather === 'fair'} /> {name}
              </label>
            )}
          </For>
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
