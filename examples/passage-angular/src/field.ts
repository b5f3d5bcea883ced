import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { AnyGate, Handle } from 'upper-gate';
import { GateDirective, injectGateField } from 'upper-gate/angular';
import { Words } from './words.ts';

/** A label, a control and messages. */
@Component({
  selector: 'app-field',
  imports: [GateDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'field', '[class.third]': "layout() === 'third'", '[class.wide]': "layout() === 'wide'" },
  template: `
    <label [gate]="field.label()">{{ field.state().label }}</label>
    @if (field.state().hint; as hint) {
      <span class="hint" [gate]="field.hint()">{{ hint }}</span>
    }
    @switch (control()) {
      @case ('select') {
        <select [gate]="field.input()">
          <option value="">{{ words.say('choose') }}</option>
          @for (option of of().options; track option.value) {
            <option [gate]="field.selectOption(option.value)">{{ words.say(option.value) }}</option>
          }
        </select>
      }
      @case ('textarea') {
        <textarea [gate]="field.input()" rows="3"></textarea>
        <span class="hint count" [gate]="field.counter()">{{ field.state().counter }}</span>
      }
      @case ('number') {
        <input [gate]="field.input()" type="number" step="any" inputmode="decimal" />
      }
      @default {
        <input [gate]="field.input()" [attr.autocomplete]="autocomplete()" [attr.accept]="accept()" />
      }
    }
    <span class="messages" [gate]="field.messages()">
      @for (message of field.state().shown; track message.message) {
        <span [attr.data-gate-severity]="message.severity">{{ message.message }}</span>
      }
    </span>
  `,
})
export class Field {
  readonly form = input.required<AnyGate>();
  readonly of = input.required<Handle>();
  readonly control = input<'input' | 'number' | 'select' | 'textarea'>('input');
  readonly layout = input<'third' | 'wide'>();
  readonly autocomplete = input<string>();
  readonly accept = input<string>();
  readonly words = inject(Words);
  readonly field = injectGateField(this.form, this.of);
}
