<script lang="ts">
  // The booking, drawn by Svelte from the schema of the plain page.
  import { book, referenceIn, setWeather, type Weather } from 'lock-passage/client';
  import { BEGINNING, KINDS } from 'lock-passage/passage';
  import { CATALOGUES, LANGUAGES, rememberedLanguage, say as sayIn, speak } from 'lock-passage/words';
  import { onDestroy, tick } from 'svelte';
  import { keepDraft } from 'upper-gate';
  import { useGate, useGateState } from 'upper-gate/svelte';
  import Choices from './Choices.svelte';
  import Crew from './Crew.svelte';
  import Field from './Field.svelte';
  import { passage } from './gate.ts';
  import { provideSay } from './say.ts';
  import Summary from './Summary.svelte';
  import Tick from './Tick.svelte';

  let language = $state(rememberedLanguage());
  $effect(() => speak(language));
  const say = provideSay((word, values) => sayIn(language, word, values));

  const { gate, form } = useGate(passage, {
    initial: BEGINNING,
    messages: () => CATALOGUES[language],
    submit: (data, { signal }) => book(data, signal),
  });
  const draft = keepDraft(gate, { storage: () => localStorage, key: 'passage-svelte', maxAge: 7 * 24 * 3600 * 1000 });
  onDestroy(() => draft.stop());

  const status = useGateState(gate, ({ state }) => state.status);
  const load = useGateState(gate, (gate) => gate.field('cargo.load').data);
  const sends = $derived(status.current === 'checking' || status.current === 'sending' ? status.current : 'send');

  let outcome = $state<string[]>([]);
  let place: HTMLElement;
  /** Shows that the passage is booked, and moves the focus there. */
  function tell(...lines: string[]): void {
    outcome = lines;
    void tick().then(() => place.focus());
  }
  gate.on('submit', () => (outcome = []));
  gate.on('failed', (error) => console.warn('Not sent:', error));
  gate.on('accepted', ({ data: { vessel, arrival, slot, email }, reply }) => {
    void referenceIn(reply).then((reference) => tell(say('booked', { vessel, arrival, slot }), say('reference', { reference, email })));
  });

  const weathers = Object.entries({ fair: 'quick', slow: 'slow', gone: 'unreachable' });
</script>

<header class="top">
  <div class="inner">
    <p class="place">{say('place')}</p>
    <h1>{say('title')}</h1>
    <p>{say('lead')}</p>
    <p class="language">
      <label for="language">{say('language')}</label>
      <select id="language" bind:value={language}>
        {#each Object.entries(LANGUAGES) as [value, name] (value)}<option {value} lang={value}>{name}</option>{/each}
      </select>
    </p>
  </div>
</header>
<main class="inner">
  <form {...form} action="/api/bookings" method="post" enctype="multipart/form-data">
    <Summary {gate} />
    {#if draft.restored}<p id="restored" role="status">{say('restored')}</p>{/if}

    <fieldset class="card">
      <legend>{say('boat')}</legend>
      <div class="grid">
        <Field {gate} of={gate.field('vessel')} autocomplete="off" />
        <Field {gate} of={gate.field('registration')} autocomplete="off" spellcheck="false" />
        <Field {gate} of={gate.field('lengthM')} layout="third" type="number" step="any" inputmode="decimal" />
        <Field {gate} of={gate.field('beam')} layout="third" type="number" step="any" inputmode="decimal" />
        <Field {gate} of={gate.field('kind')} layout="third" as="select">
          <option value="">{say('choose')}</option>
          {#each KINDS as kind (kind)}<option value={kind}>{say(kind)}</option>{/each}
        </Field>
        <Field {gate} of={gate.field('insurance')} layout="wide" accept=".pdf,image/*" />
      </div>
    </fieldset>

    <fieldset class="card">
      <legend>{say('passage')}</legend>
      <div class="grid">
        <Field {gate} of={gate.field('arrival')} layout="third" />
        <Field {gate} of={gate.field('window.from')} layout="third" />
        <Field {gate} of={gate.field('window.to')} layout="third" />
        <Choices {gate} of={gate.field('slot')} valueToo />
      </div>
    </fieldset>

    <fieldset class="card">
      <legend>{say('aboard')}</legend>
      <div class="grid">
        <Crew {gate} />
        <Choices {gate} of={gate.field('cargo.load')} />
        {#if load.current && load.current !== 'none'}
          <Field {gate} of={gate.field('cargo.what')} layout="third" autocomplete="off" />
          <Field {gate} of={gate.field('cargo.tonnes')} layout="third" type="number" step="any" inputmode="decimal" />
        {/if}
        {#if load.current === 'dangerous'}<Field {gate} of={gate.field('cargo.permit')} layout="third" autocomplete="off" />{/if}
        <Choices {gate} of={gate.field('kit')} />
      </div>
    </fieldset>

    <fieldset class="card">
      <legend>{say('reach')}</legend>
      <div class="grid">
        <Field {gate} of={gate.field('email')} type="email" autocomplete="email" />
        <Field {gate} of={gate.field('emailAgain')} type="email" autocomplete="email" />
        <Tick {gate} of={gate.field('callBack')} />
        <Field {gate} of={gate.field('phone')} type="tel" autocomplete="tel" />
        <Field {gate} of={gate.field('remarks')} layout="wide" as="textarea" rows="3" />
        <Tick {gate} of={gate.field('terms')} plain />
      </div>
    </fieldset>

    <div id="outcome" bind:this={place} tabindex="-1">
      {#each outcome as line (line)}<p>{line}</p>{/each}
    </div>
    <p class="actions">
      <button id="send" type="submit">{say(sends)}</button>
      <button type="reset" class="quiet">{say('over')}</button>
    </p>
  </form>

  <aside class="card demo" aria-label="For this demo only" lang="en" dir="ltr">
    <fieldset id="weather" onchange={({ target }) => setWeather((target as HTMLInputElement).value as Weather)}>
      <legend>For this demo only: the server is</legend>
      <span class="options">
        {#each weathers as [weather, name] (weather)}
          <label><input type="radio" name="weather" value={weather} checked={weather === 'fair'} /> {name}</label>
        {/each}
      </span>
    </fieldset>
    <p>
      On the register: <code>OT-1204</code> Otter, <code>HE-2210</code> Heron, <code>KF-3307</code> Kingfisher. Booked already:
      <code>MA-4001</code> Mallard.
    </p>
    <p><a href="/">All examples</a></p>
  </aside>
</main>
