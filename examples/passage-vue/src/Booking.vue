<script setup lang="ts">
// The booking, drawn by Vue from the schema of the plain page.
import { book, referenceIn, setWeather, type Weather } from 'lock-passage/client';
import { BEGINNING, KINDS } from 'lock-passage/passage';
import { CATALOGUES, LANGUAGES, rememberedLanguage, say as sayIn, speak, type Word } from 'lock-passage/words';
import { keepDraft } from 'upper-gate';
import { useGate, useGateState } from 'upper-gate/vue';
import { nextTick, onScopeDispose, provide, ref, shallowRef, useTemplateRef, watchEffect } from 'vue';
import Choices from './Choices.vue';
import Crew from './Crew.vue';
import Field from './Field.vue';
import { passage } from './gate.ts';
import { SAY } from './say.ts';
import Summary from './Summary.vue';
import Tick from './Tick.vue';

const language = ref(rememberedLanguage());
watchEffect(() => speak(language.value));
const say = (word: Word, values?: Readonly<Record<string, string>>): string => sayIn(language.value, word, values);
provide(SAY, say);

const { gate, form } = useGate(passage, {
  initial: BEGINNING,
  messages: () => CATALOGUES[language.value],
  submit: (data, { signal }) => book(data, signal),
});
const draft = keepDraft(gate, { storage: () => localStorage, key: 'passage-vue', maxAge: 7 * 24 * 3600 * 1000 });
onScopeDispose(() => draft.stop());

const status = useGateState(gate, ({ state }) => state.status);
const load = useGateState(gate, (gate) => gate.field('cargo.load').data);

const outcome = shallowRef<string[]>();
const place = useTemplateRef<HTMLElement>('place');
/** Shows that the passage is booked, and moves the focus there. */
function tell(...lines: string[]): void {
  outcome.value = lines;
  void nextTick(() => place.value?.focus());
}
gate.on('submit', () => (outcome.value = undefined));
gate.on('failed', (error) => console.warn('Not sent:', error));
gate.on('accepted', ({ data: { vessel, arrival, slot, email }, reply }) => {
  void referenceIn(reply).then((reference) => tell(say('booked', { vessel, arrival, slot }), say('reference', { reference, email })));
});

const weathers = { fair: 'quick', slow: 'slow', gone: 'unreachable' };
</script>

<template>
  <header class="top">
    <div class="inner">
      <p class="place">{{ say('place') }}</p>
      <h1>{{ say('title') }}</h1>
      <p>{{ say('lead') }}</p>
      <p class="language">
        <label for="language">{{ say('language') }}</label>
        <select id="language" v-model="language">
          <option v-for="(name, value) in LANGUAGES" :key="value" :value="value" :lang="value">{{ name }}</option>
        </select>
      </p>
    </div>
  </header>
  <main class="inner">
    <form v-bind="form" action="/api/bookings" method="post" enctype="multipart/form-data">
      <Summary :gate="gate" />
      <p v-if="draft.restored" id="restored" role="status">{{ say('restored') }}</p>

      <fieldset class="card">
        <legend>{{ say('boat') }}</legend>
        <div class="grid">
          <Field :gate="gate" :of="gate.field('vessel')" autocomplete="off" />
          <Field :gate="gate" :of="gate.field('registration')" autocomplete="off" spellcheck="false" />
          <Field :gate="gate" :of="gate.field('lengthM')" layout="third" type="number" step="any" inputmode="decimal" />
          <Field :gate="gate" :of="gate.field('beam')" layout="third" type="number" step="any" inputmode="decimal" />
          <Field :gate="gate" :of="gate.field('kind')" layout="third" as="select">
            <option value="">{{ say('choose') }}</option>
            <option v-for="kind in KINDS" :key="kind" :value="kind">{{ say(kind) }}</option>
          </Field>
          <Field :gate="gate" :of="gate.field('insurance')" layout="wide" accept=".pdf,image/*" />
        </div>
      </fieldset>

      <fieldset class="card">
        <legend>{{ say('passage') }}</legend>
        <div class="grid">
          <Field :gate="gate" :of="gate.field('arrival')" layout="third" />
          <Field :gate="gate" :of="gate.field('window.from')" layout="third" />
          <Field :gate="gate" :of="gate.field('window.to')" layout="third" />
          <Choices :gate="gate" :of="gate.field('slot')" value-too />
        </div>
      </fieldset>

      <fieldset class="card">
        <legend>{{ say('aboard') }}</legend>
        <div class="grid">
          <Crew :gate="gate" />
          <Choices :gate="gate" :of="gate.field('cargo.load')" />
          <template v-if="load && load !== 'none'">
            <Field :gate="gate" :of="gate.field('cargo.what')" layout="third" autocomplete="off" />
            <Field :gate="gate" :of="gate.field('cargo.tonnes')" layout="third" type="number" step="any" inputmode="decimal" />
          </template>
          <Field v-if="load === 'dangerous'" :gate="gate" :of="gate.field('cargo.permit')" layout="third" autocomplete="off" />
          <Choices :gate="gate" :of="gate.field('kit')" />
        </div>
      </fieldset>

      <fieldset class="card">
        <legend>{{ say('reach') }}</legend>
        <div class="grid">
          <Field :gate="gate" :of="gate.field('email')" type="email" autocomplete="email" />
          <Field :gate="gate" :of="gate.field('emailAgain')" type="email" autocomplete="email" />
          <Tick :gate="gate" :of="gate.field('callBack')" />
          <Field :gate="gate" :of="gate.field('phone')" type="tel" autocomplete="tel" />
          <Field :gate="gate" :of="gate.field('remarks')" layout="wide" as="textarea" rows="3" />
          <Tick :gate="gate" :of="gate.field('terms')" plain />
        </div>
      </fieldset>

      <div id="outcome" ref="place" tabindex="-1">
        <p v-for="line in outcome" :key="line">{{ line }}</p>
      </div>
      <p class="actions">
        <button id="send" type="submit">{{ say(status === 'checking' || status === 'sending' ? status : 'send') }}</button>
        <button type="reset" class="quiet">{{ say('over') }}</button>
      </p>
    </form>

    <aside class="card demo" aria-label="For this demo only" lang="en" dir="ltr">
      <fieldset id="weather" @change="setWeather(($event.target as HTMLInputElement).value as Weather)">
        <legend>For this demo only: the server is</legend>
        <span class="options">
          <label v-for="(name, weather) in weathers" :key="weather">
            <input type="radio" name="weather" :value="weather" :checked="weather === 'fair'" /> {{ name }}
          </label>
        </span>
      </fieldset>
      <p>
        On the register: <code>OT-1204</code> Otter, <code>HE-2210</code> Heron, <code>KF-3307</code> Kingfisher. Booked already:
        <code>MA-4001</code> Mallard.
      </p>
      <p><a href="/">All examples</a></p>
    </aside>
  </main>
</template>
