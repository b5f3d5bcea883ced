// P11: React, 1,000 fields: components rendered by a keystroke, and what a keystroke and mounting cost, against a `useState` for
// each field, written by hand, with the same ids and states.
import { buildSync } from 'esbuild';
import { chromium } from 'playwright-core';
import { compared, report } from './rounds.mjs';

const source = `
import { createElement as h, memo, useState } from 'react';
import { createRoot } from 'react-dom/client';
import { flushSync } from 'react-dom';
import { createGate, group, text, required, length } from 'upper-gate';
import { useGateField } from 'upper-gate/react';
const names = Array.from({ length: 1000 }, (_, i) => 'f' + i);
const schema = group(Object.fromEntries(names.map((name) => [name, text(name, required(), length({ min: 2, max: 20 }))])));
let renders = 0;
const Ours = memo(function Ours({ gate, name }) {
  renders += 1;
  const { label, input, messages } = useGateField(gate, name);
  return h('p', null, h('label', label), h('input', input), h('span', messages));
});
const messageOf = (value, label) =>
  value === '' ? label + ' is required' : value.length < 2 ? label + ' is short' : value.length > 20 ? label + ' is long' : undefined;
const ByHand = memo(function ByHand({ name }) {
  const [value, setValue] = useState('Otter');
  const [touched, setTouched] = useState(false);
  const message = messageOf(value.trim(), name);
  const invalid = touched && message !== undefined;
  const id = 'gate-' + name;
  // The same ids and states as ours: what a control is called by is what browsers look through.
  return h('p', null, h('label', { id: id + '-label', htmlFor: id, children: name }),
    h('input', { id, name, value, required: true, 'aria-invalid': invalid, 'aria-describedby': invalid ? id + '-messages' : undefined,
      'data-gate-state': invalid ? 'error' : touched ? 'valid' : 'idle',
      onChange: (event) => setValue(event.target.value), onBlur: () => setTouched(true) }),
    h('span', { id: id + '-messages', children: invalid ? message : undefined }));
});
/** @param wrapper an element around the fields, if there is one: else the form is, in which browsers look for a control of each name that React uses on it */
function mount(byHand, wrapper) {
  const element = document.createElement('div');
  document.body.append(element);
  const root = createRoot(element);
  const gate = createGate(schema, { initial: Object.fromEntries(names.map((name) => [name, 'Otter'])) });
  const fields = names.map((name) => byHand ? h(ByHand, { key: name, name }) : h(Ours, { key: name, gate, name }));
  flushSync(() => root.render(h('form', null, wrapper ? h(wrapper, null, fields) : fields)));
  return { element, end() { root.unmount(); element.remove(); } };
}
const setValue = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
function type(input, value) {
  setValue.call(input, value);
  flushSync(() => input.dispatchEvent(new InputEvent('input', { bubbles: true })));
}
const time = (run) => { const start = performance.now(); run(); return (performance.now() - start) * 1000; };
export async function measure() {
  const pause = () => new Promise((resolve) => setTimeout(resolve));
  const times = { mount: [[], []], wrapped: [[], []], key: [[], []] };
  let rendered;
  for (let round = 0; round < 20; round += 1) {
    for (const byHand of round % 2 ? [false, true] : [true, false]) {
      let mounted;
      const took = time(() => (mounted = mount(byHand)));
      await pause();
      const input = mounted.element.querySelector('[name=f500]');
      for (let i = 0; i < 20; i += 1) type(input, 'Otte' + i);
      renders = 0;
      const key = time(() => { for (let i = 0; i < 100; i += 1) type(input, 'Heron'.slice(0, 2 + (i % 3))); }) / 100;
      if (!byHand) rendered = renders / 100;
      if (round > 1) { times.mount[Number(byHand)].push(took); times.key[Number(byHand)].push(key); }
      mounted.end();
      await pause();
      const wrapped = time(() => (mounted = mount(byHand, 'fieldset')));
      if (round > 1) times.wrapped[Number(byHand)].push(wrapped);
      mounted.end();
      await pause();
    }
  }
  return { rendered, ...times };
}`;
const bundle = buildSync({
  stdin: { contents: source, resolveDir: `${import.meta.dirname}/../examples/passage-react`, loader: 'js' },
  bundle: true,
  minify: true,
  write: false,
  format: 'iife',
  globalName: 'Bench',
  conditions: ['production'],
  define: { 'process.env.NODE_ENV': '"production"' },
}).outputFiles[0].text;

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu'],
});
const page = await browser.newPage();
await page.addScriptTag({ content: bundle });
const { rendered, mount, wrapped, key } = await page.evaluate('Bench.measure()');
await browser.close();
console.log(`P11  components rendered by a keystroke in a form of 1,000: ${rendered}`);
report('P11', 'React: a keystroke among 1,000 fields, against useState by hand', compared(key), 1.7);
report('P11', 'React: mounting 1,000 fields, against useState by hand', compared(mount), 1.85);
report('P11', 'React: mounting 1,000 fields in a fieldset, against useState by hand', compared(wrapped), 1.85);
