// P9, P9f, P10 and P10r: what a keystroke, binding, and a refusal cost in a real browser, on a form of 1,000 controls.
import { buildSync } from 'esbuild';
import { chromium } from 'playwright-core';
import { compared, report } from './rounds.mjs';

const bundle = buildSync({
  stdin: { contents: "export * from 'upper-gate'; export * from 'upper-gate/dom';", resolveDir: import.meta.dirname },
  bundle: true,
  minify: true,
  write: false,
  format: 'iife',
  globalName: 'UpperGate',
  conditions: ['production'],
}).outputFiles[0].text;

/** Runs in the page: microseconds of ours and of the browser's own, in alternating rounds. */
async function measure(UpperGate) {
  const { group, text, required, length, createGate, bindForm } = UpperGate;
  const namesOf = (count) => Array.from({ length: count }, (_, i) => `f${i}`);
  const names = namesOf(1000);
  const schemaOf = (all) => group(Object.fromEntries(all.map((name) => [name, text(name, required(), length({ min: 2, max: 20 }))])));
  const schema = schemaOf(names);
  const htmlOf = (all) =>
    all
      .map(
        (name) =>
          `<p><label for="${name}">${name}</label><input id="${name}" name="${name}" required minlength="2" maxlength="20" value="Otter"></p>`,
      )
      .join('');
  const html = htmlOf(names);
  const median = (values) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)];
  const time = (run) => {
    const start = performance.now();
    run();
    return (performance.now() - start) * 1000;
  };
  const create = () => {
    const form = document.createElement('form');
    form.innerHTML = html;
    return form;
  };
  const alternate = (rounds, ...runs) => {
    const times = runs.map(() => []);
    for (let round = 0; round < rounds; round += 1) runs.forEach((run, i) => times[i].push(run(round)));
    return times;
  };

  const form = create();
  document.body.append(form);
  const gate = createGate(schema);
  bindForm(form, gate);
  gate.field('f500').leave();
  const input = form.elements.namedItem('f500');
  // A word, letter by letter: the first is too short, and its message comes and goes.
  const word = 'Otter';
  const type = (control) =>
    time(() => {
      for (let i = 0; i < 100; i += 1) {
        control.value = word.slice(0, 1 + (i % word.length));
        control.dispatchEvent(new InputEvent('input', { bubbles: true }));
      }
    }) / 100;
  // What typing itself takes, without anybody who listens, is not ours.
  const unbound = create();
  unbound.noValidate = true;
  document.body.append(unbound);
  const keystroke = () => type(input) - type(unbound.elements.namedItem('f500'));
  const check = () =>
    time(() => {
      for (let i = 0; i < 50; i += 1) form.checkValidity();
    }) / 50;
  const key = alternate(61, keystroke, check);
  form.remove();

  const bind = () => {
    const fresh = create();
    document.body.append(fresh);
    const live = createGate(schema);
    let undo;
    const took = time(() => (undo = bindForm(fresh, live)));
    undo();
    fresh.remove();
    return took;
  };
  /** Script time of a keystroke when each one has a frame, and shows or removes a message. */
  const framed = async (count) => {
    const all = namesOf(count);
    const fresh = document.createElement('form');
    fresh.innerHTML = htmlOf(all);
    document.body.append(fresh);
    const live = createGate(schemaOf(all));
    const undo = bindForm(fresh, live);
    live.field('f5').leave();
    const control = fresh.elements.namedItem('f5');
    const times = [];
    for (let i = 0; i < 120; i += 1) {
      await new Promise(requestAnimationFrame);
      times.push(
        time(() => {
          control.value = i % 2 ? 'Otter' : 'O';
          control.dispatchEvent(new InputEvent('input', { bubbles: true }));
        }),
      );
    }
    undo();
    fresh.remove();
    return median(times.slice(20));
  };
  const frames = [[], []];
  for (let round = 0; round < 5; round += 1) {
    frames[0].push(await framed(1000));
    frames[1].push(await framed(10));
  }

  const binding = alternate(31, bind, () => time(create));

  /** A submission that is refused for the sake of every control; its end, with the messages and the focus, is in it. */
  const refuse = async (count) => {
    const all = namesOf(count);
    const fresh = document.createElement('form');
    fresh.innerHTML = htmlOf(all).replaceAll('value="Otter"', '');
    document.body.append(fresh);
    const live = createGate(schemaOf(all));
    const undo = bindForm(fresh, live);
    const start = performance.now();
    await live.submit();
    // What the page has to do for it is a part of it.
    fresh.getBoundingClientRect();
    const took = (performance.now() - start) * 1000;
    undo();
    fresh.remove();
    return took;
  };
  const refusals = [[], []];
  for (let round = 0; round < 11; round += 1) {
    refusals[0].push(await refuse(2000));
    refusals[1].push(await refuse(1000));
  }
  return { key, frames, binding, refusals };
}

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu'],
});
const page = await browser.newPage();
await page.addScriptTag({ content: bundle });
const { key, frames, binding, refusals } = await page.evaluate(`(${measure.toString()})(UpperGate)`);
await browser.close();
report('P9', 'keystroke among 1,000 controls, against checkValidity()', compared(key), 0.85);
report('P9f', 'a keystroke a frame, messages come and go: 1,000 controls against 10', compared(frames), 1.2);
report('P10', 'bindForm on 1,000 controls, against creating them by innerHTML', compared(binding), 2.1);
report('P10r', 'refusing 2,000 controls against 1,000', compared(refusals), 2.2);
