// The booking as a custom element: the page is that of the plain one, and says itself which gate its form has.

import { defineForms, errorSummary, FieldElement, templateRows } from 'upper-gate/elements';
import { follow, makeBooking } from './page.ts';
import css from './style.css?inline';

const styles = new CSSStyleSheet();
styles.replaceSync(css);

/** A field of the harbour's own: label, control and messages are in its shadow root. */
class HarbourField extends FieldElement {
  constructor() {
    super();
    const root = this.attachShadow({ mode: 'open', delegatesFocus: true });
    root.adoptedStyleSheets = [styles];
    root.append(document.querySelector<HTMLTemplateElement>('#harbour-field')!.content.cloneNode(true));
  }
}
customElements.define('harbour-field', HarbourField);

defineForms(
  {
    booking() {
      const booking = makeBooking();
      follow(booking);
      return booking.gate;
    },
  },
  { rows: templateRows, summary: errorSummary },
);
