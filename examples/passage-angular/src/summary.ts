import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { AnyGate } from 'upper-gate';
import { GateDirective, injectGateSummary } from 'upper-gate/angular';

@Component({
  selector: 'app-summary',
  imports: [GateDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="summary" [gate]="summary.place()">
      <h2 [gate]="summary.heading()">{{ summary.text() }}</h2>
      <ul>
        @for (error of summary.errors(); track error.key) {
          <li>
            @if (error.element) {
              <a [gate]="summary.link(error)">{{ error.text }}</a>
            } @else {
              {{ error.text }}
            }
          </li>
        }
      </ul>
    </section>
    <div class="whole" [gate]="summary.line()">
      @for (message of summary.lineMessages(); track message.message) {
        <span [attr.data-gate-severity]="message.severity">{{ message.message }}</span>
      }
    </div>
  `,
})
export class Summary {
  readonly form = input.required<AnyGate>();
  readonly summary = injectGateSummary(this.form);
}
