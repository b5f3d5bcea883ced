import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { AnyGate, Handle } from 'upper-gate';
import { GateDirective, injectGateField } from 'upper-gate/angular';
import { Words } from './words.ts';

/** Radios or checkboxes of one field. */
@Component({
  selector: 'app-choices',
  imports: [GateDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'wide' },
  template: `
    <fieldset class="field choices" [gate]="field.fieldset()">
      <legend>{{ field.state().label }}</legend>
      @if (field.state().hint; as hint) {
        <span class="hint" [gate]="field.hint()">{{ hint }}</span>
      }
      <span class="options">
        @for (option of of().options; track option.value) {
          <label>
            <input [gate]="field.option(option.value)" />&ngsp;
            @if (valueToo()) {
              <b>{{ option.value }}</b>
            }
            {{ words.say(option.value) }}
          </label>
        }
      </span>
      <span class="messages" [gate]="field.messages()">
        @for (message of field.state().shown; track message.message) {
          <span [attr.data-gate-severity]="message.severity">{{ message.message }}</span>
        }
      </span>
    </fieldset>
  `,
})
export class Choices {
  readonly form = input.required<AnyGate>();
  readonly of = input.required<Handle>();
  readonly valueToo = input(false);
  readonly words = inject(Words);
  readonly field = injectGateField(this.form, this.of);
}
