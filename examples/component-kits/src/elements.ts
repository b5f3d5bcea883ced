// A kit of web components on a plain page: all the rest is in the markup.

import '@material/web/button/filled-button.js';
import '@material/web/button/text-button.js';
import '@material/web/checkbox/checkbox.js';
import '@material/web/radio/radio.js';
import '@material/web/select/outlined-select.js';
import '@material/web/select/select-option.js';
import '@material/web/slider/slider.js';
import '@material/web/switch/switch.js';
import '@material/web/textfield/outlined-text-field.js';
import { createGate } from 'upper-gate';
import { defineForms, templateRows } from 'upper-gate/elements';
import { initial, mooring, shown } from './mooring.ts';
import './page.css';

const booked = document.querySelector('output')!;
defineForms(
  { mooring: () => createGate(mooring, { initial, submit: (data) => void (booked.textContent = shown(data)) }) },
  { rows: templateRows },
);
