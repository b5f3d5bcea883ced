import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { AnyGate, Handle } from 'upper-gate';
import { GateDirective, injectGateField } from 'upper-gate/angular';

/** A box to tick, within its label. */
@Component({
  selector: 'app-tick',
  imports: [GateDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'field', '[class.wide]': 'plain()', '[class.tick]': '!plain()' },
  template: `
    <label [class.plain]="plain()"><input [gate]="field.input()" /> {{ field.state().label }}</label>
    <span class="messages" [gate]="field.messages()">
      @for (message of field.state().shown; track message.message) {
        <span [attr.data-gate-severity]="message.severity">{{ message.message }}</span>
      }
    </span>
  `,
})
export class Tick {
  readonly form = input.required<AnyGate>();
  readonly of = input.required<Handle>();
  readonly plain = input(false);
  readonly field = injectGateField(this.form, this.of);
}
