import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { Gate } from 'upper-gate';
import { GateDirective, injectGateList } from 'upper-gate/angular';
import { Field } from './field.ts';
import type { passage } from './passage.ts';
import { Words } from './words.ts';

@Component({
  selector: 'app-crew',
  imports: [Field, GateDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'wide' },
  template: `
    <fieldset class="crew">
      <legend>{{ crew.label() }}</legend>
      @for (row of crew.rows(); track row.key) {
        <fieldset class="row wide">
          <legend>{{ words.say('member') }} {{ $index + 1 }}</legend>
          <app-field [form]="form()" [of]="row.field('name')" autocomplete="off" />
          <app-field [form]="form()" [of]="row.field('age')" control="number" />
          <span class="tools">
            <button type="button" class="quiet" data-gate-move="up" (click)="crew.move($index, $index - 1)">{{ words.say('up') }}</button>
            <button type="button" class="quiet" (click)="crew.remove($index)">{{ words.say('remove') }}</button>
          </span>
        </fieldset>
      }
      <span class="messages" [gate]="crew.messages()">
        @for (message of crew.shown(); track message.message) {
          <span [attr.data-gate-severity]="message.severity">{{ message.message }}</span>
        }
      </span>
      <button [gate]="crew.button()" class="quiet" data-gate-add="crew" (click)="crew.add()">{{ words.say('addMember') }}</button>
    </fieldset>
  `,
})
export class Crew {
  readonly form = input.required<Gate<typeof passage>>();
  readonly words = inject(Words);
  readonly crew = injectGateList(this.form, 'crew');
}
