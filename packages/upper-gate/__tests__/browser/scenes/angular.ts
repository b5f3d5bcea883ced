// What the tests of the Angular binding draw, on the server and in a browser. (Compiled where it runs.)

import '@angular/compiler';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  effect,
  inject,
  InjectionToken,
  input,
  Input,
  provideZonelessChangeDetection,
  signal,
  type ApplicationConfig,
  type InputSignal,
  type Type,
} from '@angular/core';
import { createApplication, provideClientHydration } from '@angular/platform-browser';
import type { AnyGate, Gate, Handle, Row } from 'upper-gate';
import { GateDirective, injectGate, injectGateField, injectGateList, injectGateState, injectGateSummary, injectPostedGate } from 'upper-gate/angular';
import { answer, book, count, either, formData, heard, keep, lost, many, moving, nested, schema, type Answer } from './forms.ts';

export { connect } from 'upper-gate/angular';
export { draftIn, renders, sent } from './forms.ts';

const OnPush = ChangeDetectionStrategy.OnPush;
/** An input that is a signal, as Angular's compiler would declare it. */
const Given = (alias: string): PropertyDecorator => Input({ alias, isSignal: true } as never) as PropertyDecorator;

/** A block for each message, so that they read apart. */
@Component({
  selector: 'scene-messages',
  template: `@for (message of shown(); track $index) {
    <div [attr.data-gate-severity]="message.severity">{{ message.message }}</div>
  }`,
  changeDetection: OnPush,
})
class Messages {
  @Given('shown') readonly shown = input<readonly { readonly message: string; readonly severity: string }[]>([]);
}

@Component({
  selector: 'scene-field',
  imports: [GateDirective, Messages],
  template: `<p>
      <label [gate]="field.label()">{{ field.state().label }}</label> <span [gate]="field.hint()">{{ field.state().hint }}</span>
      <input [gate]="field.input()" />
    </p>
    <div [gate]="field.messages()"><scene-messages [shown]="field.state().shown" /></div>`,
  changeDetection: OnPush,
})
class Field {
  @Given('gate') readonly form = input() as InputSignal<AnyGate>;
  @Given('of') readonly of = input() as InputSignal<Handle>;
  readonly field = injectGateField(this.form, this.of);
  constructor() {
    effect(() => count(this.field.state().path));
  }
}

/** The rows of a list, and buttons for each. */
const rowsOf = (list: string, row: string, drop = 'Remove'): string => `@for (row of ${list}.rows(); track row.key) {
  <div>
    ${row}
    <button type="button" (click)="${list}.move($index, $index - 1)">Up</button>
    <button type="button" (click)="${list}.remove($index)">${drop}</button>
  </div>
}`;
const adder = (list: string, word = 'Add'): string =>
  `<span [gate]="${list}.messages()"><scene-messages [shown]="${list}.shown()" /></span><button [gate]="${list}.button()" (click)="${list}.add()">${word}</button>`;

@Component({
  selector: 'scene-crew',
  imports: [Field, GateDirective, Messages],
  template: `<fieldset>
    <span [gate]="crew.hint()">{{ crew.hintText() }}</span>${rowsOf('crew', '<scene-field [gate]="form()" [of]="row.handle" />')}${adder('crew')}
  </fieldset>`,
  changeDetection: OnPush,
})
class Crew {
  @Given('gate') readonly form = input() as InputSignal<Gate<typeof schema>>;
  readonly crew = injectGateList(this.form, 'crew');
  constructor() {
    effect(() => {
      this.crew.rows();
      count('the list');
    });
  }
}

@Component({
  selector: 'scene-summary',
  imports: [GateDirective, Messages],
  template: `<div [gate]="summary.line()"><scene-messages [shown]="summary.lineMessages()" /></div>
    <section [gate]="summary.place()">
      <h2 [gate]="summary.heading()">{{ summary.text() }}</h2>
      @for (error of summary.errors(); track error.key) {
        <a [gate]="summary.link(error)">{{ error.message }}</a>
      }
    </section>`,
  changeDetection: OnPush,
})
class Summary {
  @Given('gate') readonly form = input() as InputSignal<AnyGate>;
  readonly summary = injectGateSummary(this.form);
}

/** What the form is drawn with. */
const GIVEN = new InjectionToken<{ readonly posted?: Answer | undefined; readonly initial?: object | undefined }>('given');

@Component({
  selector: 'scene-form',
  imports: [Crew, Field, GateDirective, Summary],
  template: `<form [gate]="booking.form" action="/send" method="post" [attr.data-answer]="booking.answer()?.title">
    <scene-summary [gate]="gate" />
    <scene-field [gate]="gate" [of]="gate.field('name')" />
    <scene-field [gate]="gate" [of]="gate.field('again')" />
    <select aria-label="Kind" [gate]="kind.input()">
      @for (value of ['', 'barge', 'canoe']; track value) {
        <option [gate]="kind.selectOption(value)">{{ value }}</option>
      }
    </select>
    <input aria-label="Port" [gate]="side.option('port')" /> <input aria-label="Starboard" [gate]="side.option('starboard')" />
    <scene-field [gate]="gate" [of]="gate.field('ok')" />
    <scene-crew [gate]="gate" />
    <button type="submit" name="way" value="up">Go</button>
    <output>{{ state().status }} {{ state().errorCount }}</output>
  </form>`,
  changeDetection: OnPush,
})
export class Form {
  readonly booking = injectPostedGate(schema, { focus: 'summary', action: book, ...inject(GIVEN) });
  readonly gate = this.booking.gate;
  readonly kind = injectGateField(this.gate, 'kind');
  readonly side = injectGateField(this.gate, 'side');
  readonly state = injectGateState(this.gate);
  constructor() {
    keep(this.gate);
    count('the form');
  }
}

export const config = (given: object): ApplicationConfig => ({ providers: [provideZonelessChangeDetection(), { provide: GIVEN, useValue: given }] });

/** Draws a component in an element. */
async function draw(root: Element, component: Type<unknown>, given: object = {}): Promise<() => void> {
  const application = await createApplication(config(given));
  const host = document.createElement('scene-host');
  root.append(host);
  application.bootstrap(component, host);
  return () => {
    application.destroy();
    host.remove();
  };
}
const mounts = (component: Type<unknown>) => (root: Element) => void draw(root, component);

export function hydrate(root: Element, posted?: Answer): void {
  // (Angular looks for its mark at the start of the page.)
  document.body.prepend(...[...root.childNodes].filter(({ nodeType }) => nodeType === 8));
  const { providers } = config({ posted });
  void createApplication({ providers: [...providers, provideClientHydration()] }).then((application) => application.bootstrap(Form, root.querySelector('scene-form')));
}

export function mount(root: Element, _strict: boolean, initial?: object): () => Promise<void> {
  const drawn = draw(root, Form, { initial });
  return async () => (await drawn)();
}

/** Mistakes, one of which arrives later. */
@Component({
  selector: 'scene-sloppy',
  imports: [Field, GateDirective],
  template: `<form [gate]="form">
    <scene-field [gate]="gate" [of]="gate.field('name')" />
    <input name="typo" />
    @if (arrived()) {
      <input name="later" />
    }
    <button (click)="arrived.set(true)">plus</button>
    <input type="submit" />
  </form>`,
  changeDetection: OnPush,
})
class Sloppy {
  readonly #made = injectGate(schema);
  readonly gate = this.#made.gate;
  readonly form = this.#made.form;
  readonly arrived = signal(false);
}
export const mountSloppy = mounts(Sloppy);

@Component({
  selector: 'scene-moving',
  imports: [GateDirective],
  template: `<form [gate]="made.form">
    @for (field of selects; track $index) {
      <p>
        <label [gate]="field.label()">{{ field.state().label }}</label>
        <select [gate]="field.input()">
          <option value="">Choose</option>
          @for (option of field.state().options; track option.value) {
            <option [gate]="field.selectOption(option.value)">{{ option.label }}</option>
          }
        </select>
      </p>
    }
    @for (field of groups; track $index) {
      <fieldset [gate]="field.fieldset()">
        <legend>{{ field.state().label }}</legend>
        @for (each of field.state().options; track each.value) {
          <label><input [gate]="field.option(each.value)" /> {{ each.label }}</label>
        }
      </fieldset>
    }
    <label [gate]="day.label()">{{ day.state().label }}</label> <input [gate]="day.input()" /> <i [gate]="day.hint()">{{ day.state().hint }}</i>
    <button>Go</button>
  </form>`,
  changeDetection: OnPush,
})
class Moving {
  readonly made = injectGate(moving);
  readonly selects = [injectGateField(this.made.gate, 'harbour'), injectGateField(this.made.gate, 'berth')];
  readonly groups = [injectGateField(this.made.gate, 'side'), injectGateField(this.made.gate, 'kit')];
  readonly day = injectGateField(this.made.gate, 'day');
  constructor() {
    keep(this.made.gate);
    afterNextRender(() => void this.made.gate.field('day').focus());
  }
}
export const mountMoving = mounts(Moving);

@Component({
  selector: 'scene-either',
  imports: [GateDirective],
  template: `<form [gate]="made.form">
    <output>{{ list.label() }} {{ list.rows().length }}</output
    ><button [gate]="list.button()" (click)="list.add()">Add</button>
  </form>`,
  changeDetection: OnPush,
})
class Either {
  readonly made = injectGate(either);
  readonly list = injectGateList(this.made.gate, 'cargo.items');
  constructor() {
    keep(this.made.gate);
  }
}
export const mountEither = mounts(Either);

@Component({
  selector: 'scene-member',
  imports: [Field, GateDirective, Messages],
  template: `<scene-field [gate]="form()" [of]="of().field('name')" />${rowsOf('jobs', '<scene-field [gate]="form()" [of]="row.handle" />', 'Drop')}${adder('jobs', 'Job')}`,
  changeDetection: OnPush,
})
class Member {
  @Given('gate') readonly form = input() as InputSignal<AnyGate>;
  @Given('of') readonly of = input() as InputSignal<Row<typeof nested.fields.crew.item>>;
  readonly jobs = injectGateList(this.form, () => this.of().field('jobs'));
}

@Component({
  selector: 'scene-nested',
  imports: [Field, GateDirective, Member],
  template: `<form [gate]="made.form">
    <scene-field [gate]="made.gate" [of]="made.gate.field('vessel')" />
    ${rowsOf('crew', '<scene-member [gate]="made.gate" [of]="row" />')}
    <button type="button" (click)="crew.add()">Add</button>
    <button>Go</button>
  </form>`,
  changeDetection: OnPush,
})
class Nested {
  readonly made = injectGate(nested);
  readonly crew = injectGateList(this.made.gate, 'crew');
  constructor() {
    keep(this.made.gate);
  }
}
export const mountNested = mounts(Nested);

/** A required field has no control, one is hidden, and nothing of the form as a whole is drawn. */
@Component({
  selector: 'scene-lost',
  imports: [Field, GateDirective],
  template: `<form [gate]="made.form">
    <scene-field [gate]="made.gate" [of]="made.gate.field('name')" />
    <input [gate]="again.input()" aria-label="Again" hidden />
    <button>Go</button>
  </form>`,
  changeDetection: OnPush,
})
class Lost {
  readonly made = injectGate(lost, { submit: answer });
  readonly again = injectGateField(this.made.gate, 'again');
  constructor() {
    keep(this.made.gate);
  }
}
export const mountLost = mounts(Lost);

@Component({
  selector: 'scene-many',
  imports: [Field, GateDirective],
  template: `<form [gate]="made.form">
    @for (handle of handles; track handle.path) {
      <scene-field [gate]="made.gate" [of]="handle" />
    }
  </form>`,
  changeDetection: OnPush,
})
class Many {
  readonly made = injectGate(many);
  readonly handles = Object.keys(many.fields).map((name) => this.made.gate.field(name as never) as Handle);
  constructor() {
    keep(this.made.gate);
    count('the form');
  }
}
export const mountMany = mounts(Many);

@Component({
  selector: 'scene-options',
  imports: [GateDirective, Messages],
  template: `<span [gate]="field.hint()">{{ field.state().hint }}</span>
    @for (value of values(); track value) {
      <label><input [gate]="field.option(value)" /> {{ value }}</label>
    }
    <span [gate]="field.messages()"><scene-messages [shown]="field.state().shown" /></span>`,
  changeDetection: OnPush,
})
class Options {
  @Given('gate') readonly form = input() as InputSignal<AnyGate>;
  @Given('of') readonly of = input() as InputSignal<Handle>;
  @Given('values') readonly values = input<readonly string[]>([]);
  readonly field = injectGateField(this.form, this.of);
}

@Component({
  selector: 'scene-heard',
  imports: [Crew, Field, GateDirective, Options],
  template: `<form [gate]="made.form">
    <scene-field [gate]="gate" [of]="gate.field('name')" />
    <scene-field [gate]="gate" [of]="gate.field('code')" />
    <fieldset [gate]="kit.fieldset()">
      <legend>Kit</legend>
      <scene-options [gate]="gate" [of]="gate.field('kit')" [values]="['horn', 'lights']" />
    </fieldset>
    <fieldset>
      <legend>Course</legend>
      <scene-options [gate]="gate" [of]="gate.field('side')" [values]="['port', 'starboard']" />
      <scene-options [gate]="gate" [of]="gate.field('way')" [values]="['up', 'down']" />
    </fieldset>
    @if (tug.state().applies) {
      <p>
        <label [gate]="tug.label()">{{ tug.state().label }}</label> <input [gate]="tug.input()" />
      </p>
    }
    <scene-crew [gate]="gate" />
    <button>Go</button>
    <button type="reset">Reset</button>
  </form>`,
  changeDetection: OnPush,
})
class Heard {
  readonly made = injectGate(heard, { submit: (data) => book(undefined, formData(data)) });
  readonly gate = this.made.gate;
  readonly kit = injectGateField(this.gate, 'kit');
  readonly tug = injectGateField(this.gate, 'tug');
  constructor() {
    keep(this.gate);
  }
}
export const mountHeard = mounts(Heard);
