// The booking, drawn by Angular from the schema of the plain page.

import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  type ElementRef,
  inject,
  Injector,
  signal,
  viewChild,
} from '@angular/core';
import { book, referenceIn, setWeather, type Weather } from 'lock-passage/client';
import { BEGINNING } from 'lock-passage/passage';
import { LANGUAGES, type Language } from 'lock-passage/words';
import { keepDraft } from 'upper-gate';
import { GateDirective, injectGate, injectGateState } from 'upper-gate/angular';
import { Choices } from './choices.ts';
import { Crew } from './crew.ts';
import { Field } from './field.ts';
import { passage } from './passage.ts';
import { Summary } from './summary.ts';
import { Tick } from './tick.ts';
import { Words } from './words.ts';

@Component({
  selector: 'app-booking',
  imports: [Choices, Crew, Field, GateDirective, Summary, Tick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header class="top">
      <div class="inner">
        <p class="place">{{ words.say('place') }}</p>
        <h1>{{ words.say('title') }}</h1>
        <p>{{ words.say('lead') }}</p>
        <p class="language">
          <label for="language">{{ words.say('language') }}</label>
          <select id="language" [value]="words.language()" (change)="speak($event)">
            @for (each of languages; track each[0]) {
              <option [value]="each[0]" [selected]="each[0] === words.language()" [lang]="each[0]">{{ each[1] }}</option>
            }
          </select>
        </p>
      </div>
    </header>
    <main class="inner">
      <form [gate]="booking.form" action="/api/bookings" method="post" enctype="multipart/form-data">
        <app-summary [form]="gate" />
        @if (draft.restored) {
          <p id="restored" role="status">{{ words.say('restored') }}</p>
        }
        <fieldset class="card">
          <legend>{{ words.say('boat') }}</legend>
          <div class="grid">
            <app-field [form]="gate" [of]="gate.field('vessel')" autocomplete="off" />
            <app-field [form]="gate" [of]="gate.field('registration')" autocomplete="off" />
            <app-field [form]="gate" [of]="gate.field('lengthM')" layout="third" control="number" />
            <app-field [form]="gate" [of]="gate.field('beam')" layout="third" control="number" />
            <app-field [form]="gate" [of]="gate.field('kind')" layout="third" control="select" />
            <app-field [form]="gate" [of]="gate.field('insurance')" layout="wide" accept=".pdf,image/*" />
          </div>
        </fieldset>
        <fieldset class="card">
          <legend>{{ words.say('passage') }}</legend>
          <div class="grid">
            <app-field [form]="gate" [of]="gate.field('arrival')" layout="third" />
            <app-field [form]="gate" [of]="gate.field('window.from')" layout="third" />
            <app-field [form]="gate" [of]="gate.field('window.to')" layout="third" />
            <app-choices [form]="gate" [of]="gate.field('slot')" [valueToo]="true" />
          </div>
        </fieldset>
        <fieldset class="card">
          <legend>{{ words.say('aboard') }}</legend>
          <div class="grid">
            <app-crew [form]="gate" />
            <app-choices [form]="gate" [of]="gate.field('cargo.load')" />
            @if (load() && load() !== 'none') {
              <app-field [form]="gate" [of]="gate.field('cargo.what')" layout="third" autocomplete="off" />
              <app-field [form]="gate" [of]="gate.field('cargo.tonnes')" layout="third" control="number" />
            }
            @if (load() === 'dangerous') {
              <app-field [form]="gate" [of]="gate.field('cargo.permit')" layout="third" autocomplete="off" />
            }
            <app-choices [form]="gate" [of]="gate.field('kit')" />
          </div>
        </fieldset>
        <fieldset class="card">
          <legend>{{ words.say('reach') }}</legend>
          <div class="grid">
            <app-field [form]="gate" [of]="gate.field('email')" autocomplete="email" />
            <app-field [form]="gate" [of]="gate.field('emailAgain')" autocomplete="email" />
            <app-tick [form]="gate" [of]="gate.field('callBack')" />
            <app-field [form]="gate" [of]="gate.field('phone')" autocomplete="tel" />
            <app-field [form]="gate" [of]="gate.field('remarks')" layout="wide" control="textarea" />
            <app-tick [form]="gate" [of]="gate.field('terms')" [plain]="true" />
          </div>
        </fieldset>
        <div id="outcome" #outcome tabindex="-1">
          @for (line of told(); track line) {
            <p>{{ line }}</p>
          }
        </div>
        <p class="actions">
          <button id="send" type="submit">{{ words.say(status() === 'checking' || status() === 'sending' ? status() : 'send') }}</button>
          <button type="reset" class="quiet">{{ words.say('over') }}</button>
        </p>
      </form>

      <aside class="card demo" aria-label="For this demo only" lang="en" dir="ltr">
        <fieldset id="weather" (change)="change($event)">
          <legend>For this demo only: the server is</legend>
          <span class="options">
            @for (each of weathers; track each[0]) {
              <label><input type="radio" name="weather" [value]="each[0]" [checked]="each[0] === 'fair'" /> {{ each[1] }}</label>
            }
          </span>
        </fieldset>
        <p>
          On the register: <code>OT-1204</code> Otter, <code>HE-2210</code> Heron, <code>KF-3307</code> Kingfisher. Booked already:
          <code>MA-4001</code> Mallard.
        </p>
        <p><a href="/">All examples</a></p>
      </aside>
    </main>
  `,
})
export class Booking {
  readonly words = inject(Words);
  readonly languages = Object.entries(LANGUAGES);
  readonly weathers = Object.entries({ fair: 'quick', slow: 'slow', gone: 'unreachable' });
  readonly booking = injectGate(passage, {
    initial: BEGINNING,
    messages: this.words.catalogue,
    submit: (data, { signal }) => book(data, signal),
  });
  readonly gate = this.booking.gate;
  readonly draft = keepDraft(this.gate, { storage: () => localStorage, key: 'passage-angular', maxAge: 7 * 24 * 3600 * 1000 });
  readonly status = injectGateState(this.gate, ({ state }) => state.status);
  readonly load = injectGateState(this.gate, (gate) => gate.field('cargo.load').data);
  readonly told = signal<readonly string[]>([]);
  readonly outcome = viewChild.required<ElementRef<HTMLElement>>('outcome');
  readonly #injector = inject(Injector);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.draft.stop());
    this.gate.on('submit', () => this.told.set([]));
    this.gate.on('failed', (error) => console.warn('Not sent:', error));
    this.gate.on('accepted', ({ data: { vessel, arrival, slot, email }, reply }) => {
      void referenceIn(reply).then((reference) =>
        this.tell(this.words.say('booked', { vessel, arrival, slot }), this.words.say('reference', { reference, email })),
      );
    });
  }

  /** Shows that the passage is booked, and moves the focus there. */
  tell(...lines: string[]): void {
    this.told.set(lines);
    afterNextRender(() => this.outcome().nativeElement.focus(), { injector: this.#injector });
  }

  speak({ target }: Event): void {
    this.words.language.set((target as HTMLSelectElement).value as Language);
  }

  change({ target }: Event): void {
    setWeather((target as HTMLInputElement).value as Weather);
  }
}
