// P11 in the other frameworks: 1,000 fields, what a keystroke and mounting cost, against the state of the framework for each field, written
// by hand, with the same ids and states. (React: react.mjs.)
import { mkdtempSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { transformSync as transform } from '@babel/core';
import solid from 'babel-preset-solid';
import { buildSync } from 'esbuild';
import { chromium } from 'playwright-core';
import { compile } from 'svelte/compiler';
import { compared, report } from './rounds.mjs';

/** What all have in common. A framework brings `mount(byHand, element)`, which returns what undoes it, and `flush`. */
const COMMON = `
import { createGate, group, text, required, length } from 'upper-gate';
export const names = Array.from({ length: 1000 }, (_, i) => 'f' + i);
const schema = group(Object.fromEntries(names.map((name) => [name, text(name, required(), length({ min: 2, max: 20 }))])));
export const makeGate = () => createGate(schema, { initial: Object.fromEntries(names.map((name) => [name, 'Otter'])) });
export const messageOf = (value, label) =>
  value === '' ? label + ' is required' : value.length < 2 ? label + ' is short' : value.length > 20 ? label + ' is long' : undefined;
const time = async (run) => { const start = performance.now(); await run(); return (performance.now() - start) * 1000; };
const setValue = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
export async function measure({ mount, flush }) {
  const pause = () => new Promise((resolve) => setTimeout(resolve));
  const type = async (input, value) => {
    setValue.call(input, value);
    input.dispatchEvent(new InputEvent('input', { bubbles: true }));
    await flush();
  };
  const times = { mount: [[], []], key: [[], []] };
  for (let round = 0; round < 14; round += 1)
    for (const byHand of round % 2 ? [false, true] : [true, false]) {
      const element = document.createElement('div');
      document.body.append(element);
      let undo;
      const took = await time(async () => { undo = mount(byHand, element); await flush(); });
      await pause();
      const input = element.querySelector('[name=f500]');
      for (let i = 0; i < 20; i += 1) await type(input, 'Otte' + i);
      const key = (await time(async () => { for (let i = 0; i < 100; i += 1) await type(input, 'Heron'.slice(0, 2 + (i % 3))); })) / 100;
      if (round > 1) { times.mount[Number(byHand)].push(took); times.key[Number(byHand)].push(key); }
      undo();
      element.remove();
      await pause();
    }
  return times;
}`;

const VUE = `
import { computed, createApp, defineComponent, h, nextTick, ref } from 'vue';
import { useGateField } from 'upper-gate/vue';
import { makeGate, measure, messageOf, names } from 'bench:common';
const Ours = defineComponent((props) => {
  const field = useGateField(props.gate, props.name);
  return () => h('p', [h('label', field.label, field.state.label), h('input', field.input), h('span', field.messages, field.state.shown.map(({ message }) => message))]);
}, { props: ['gate', 'name'] });
const ByHand = defineComponent(({ name }) => {
  const [value, touched] = [ref('Otter'), ref(false)];
  const message = computed(() => messageOf(value.value.trim(), name));
  const id = 'gate-' + name;
  return () => {
    const invalid = touched.value && message.value !== undefined;
    return h('p', [h('label', { id: id + '-label', for: id }, name),
      h('input', { id, name, value: value.value, required: true, 'aria-invalid': invalid, 'aria-describedby': invalid ? id + '-messages' : undefined,
        'data-gate-state': invalid ? 'error' : touched.value ? 'valid' : 'idle',
        onInput: (event) => (value.value = event.target.value), onBlur: () => (touched.value = true) }),
      h('span', { id: id + '-messages' }, invalid ? message.value : undefined)]);
  };
}, { props: ['name'] });
const mount = (byHand, element) => {
  const gate = makeGate();
  const app = createApp(() => h('form', names.map((name) => (byHand ? h(ByHand, { key: name, name }) : h(Ours, { key: name, gate, name })))));
  app.mount(element);
  return () => app.unmount();
};
export const run = () => measure({ mount, flush: nextTick });`;

const SOLID = `
import { createSignal, For } from 'solid-js';
import { render } from 'solid-js/web';
import { useGateField } from 'upper-gate/solid';
import { makeGate, measure, messageOf, names } from 'bench:common';
function Ours(props) {
  const field = useGateField(props.gate, props.name);
  return <p><label {...field.label}>{field.state.label}</label><input {...field.input} /><span {...field.messages}><For each={field.state.shown}>{({ message }) => message}</For></span></p>;
}
function ByHand(props) {
  const { name } = props;
  const [value, setValue] = createSignal('Otter');
  const [touched, setTouched] = createSignal(false);
  const message = () => messageOf(value().trim(), name);
  const invalid = () => touched() && message() !== undefined;
  const id = 'gate-' + name;
  return <p><label id={id + '-label'} for={id}>{name}</label><input id={id} name={name} value={value()} required aria-invalid={invalid()} aria-describedby={invalid() ? id + '-messages' : undefined}
    data-gate-state={invalid() ? 'error' : touched() ? 'valid' : 'idle'} onInput={(event) => setValue(event.target.value)} onBlur={() => setTouched(true)} /><span id={id + '-messages'}>{invalid() ? message() : undefined}</span></p>;
}
const mount = (byHand, element) => {
  const gate = makeGate();
  return render(() => <form><For each={names}>{(name) => (byHand ? <ByHand name={name} /> : <Ours gate={gate} name={name} />)}</For></form>, element);
};
export const run = () => measure({ mount, flush: () => undefined });`;

const SVELTE = {
  'Ours.svelte': `<script>
  import { useGateField } from 'upper-gate/svelte';
  let { gate, name } = $props();
  const field = useGateField(() => gate, () => name);
</script>
<p><label {...field.label}>{field.state.label}</label><input {...field.input} /><span {...field.messages}>{#each field.state.shown as { message }}{message}{/each}</span></p>`,
  'ByHand.svelte': `<script>
  import { messageOf } from 'bench:common';
  let { name } = $props();
  let value = $state('Otter');
  let touched = $state(false);
  const message = $derived(messageOf(value.trim(), name));
  const invalid = $derived(touched && message !== undefined);
  const id = $derived('gate-' + name);
</script>
<p><label id="{id}-label" for={id}>{name}</label><input {id} {name} {value} required aria-invalid={invalid} aria-describedby={invalid ? id + '-messages' : undefined}
  data-gate-state={invalid ? 'error' : touched ? 'valid' : 'idle'} oninput={(event) => (value = event.target.value)} onblur={() => (touched = true)} /><span id="{id}-messages">{invalid ? message : ''}</span></p>`,
  'Form.svelte': `<script>
  import Ours from './Ours.svelte';
  import ByHand from './ByHand.svelte';
  import { names } from 'bench:common';
  let { gate, byHand } = $props();
</script>
<form>{#each names as name (name)}{#if byHand}<ByHand {name} />{:else}<Ours {gate} {name} />{/if}{/each}</form>`,
};
const SVELTE_MAIN = `
import { flushSync, mount as draw, unmount } from 'svelte';
import Form from './Form.svelte';
import { makeGate, measure } from 'bench:common';
const mount = (byHand, target) => {
  const form = draw(Form, { target, props: { gate: makeGate(), byHand } });
  return () => void unmount(form);
};
export const run = () => measure({ mount, flush: flushSync });`;

const ANGULAR = `
import '@angular/compiler';
import { ApplicationRef, ChangeDetectionStrategy, Component, computed, input, Input, provideZonelessChangeDetection, signal } from '@angular/core';
import { createApplication } from '@angular/platform-browser';
import { GateDirective, injectGateField } from 'upper-gate/angular';
import { makeGate, measure, messageOf, names } from 'bench:common';
const Given = (alias: string): any => Input({ alias, isSignal: true } as any);
const changeDetection = ChangeDetectionStrategy.OnPush;
@Component({ selector: 'bench-ours', imports: [GateDirective], changeDetection,
  template: '<p><label [gate]="field.label()">{{ field.state().label }}</label><input [gate]="field.input()" /><span [gate]="field.messages()">@for (each of field.state().shown; track each.message) {{{ each.message }}}</span></p>' })
class Ours {
  @Given('form') form: any = input();
  @Given('name') name: any = input();
  field: any = injectGateField(this.form, this.name);
}
@Component({ selector: 'bench-hand', changeDetection,
  template: \`<p><label [attr.id]="id() + '-label'" [attr.for]="id()">{{ name() }}</label><input [attr.id]="id()" [attr.name]="name()" [value]="value()" required [attr.aria-invalid]="invalid()"
    [attr.aria-describedby]="invalid() ? id() + '-messages' : null" [attr.data-gate-state]="invalid() ? 'error' : touched() ? 'valid' : 'idle'" (input)="value.set($any($event.target).value)" (blur)="touched.set(true)" /><span
    [attr.id]="id() + '-messages'">{{ invalid() ? message() : '' }}</span></p>\` })
class ByHand {
  @Given('name') name: any = input();
  id = computed(() => 'gate-' + this.name());
  value = signal('Otter');
  touched = signal(false);
  message = computed(() => messageOf(this.value().trim(), this.name()));
  invalid = computed(() => this.touched() && this.message() !== undefined);
}
const given = { gate: undefined as any, byHand: false };
@Component({ selector: 'bench-form', imports: [Ours, ByHand], changeDetection,
  template: '<form>@for (name of names; track name) {@if (byHand) {<bench-hand [name]="name" />} @else {<bench-ours [form]="gate" [name]="name" />}}</form>' })
class Form {
  names = names;
  gate = given.gate;
  byHand = given.byHand;
}
export async function run() {
  const application = await createApplication({ providers: [provideZonelessChangeDetection()] });
  const mount = (byHand: boolean, element: HTMLElement) => {
    Object.assign(given, { gate: makeGate(), byHand });
    const host = document.createElement('bench-form');
    element.append(host);
    const form = application.bootstrap(Form, host);
    return () => form.destroy();
  };
  return measure({ mount, flush: () => application.tick() } as any);
}`;

const folder = mkdtempSync(join(import.meta.dirname, '../packages/upper-gate/node_modules/.cache/bench-'));
const write = (name, code) => {
  const file = join(folder, name);
  writeFileSync(file, code);
  return file;
};
const common = write('common.js', COMMON);
for (const [name, source] of Object.entries(SVELTE)) write(name, compile(source, { filename: name, generate: 'client' }).js.code);
const ENTRIES = {
  Vue: write('vue.js', VUE),
  Svelte: write('svelte.js', SVELTE_MAIN),
  Solid: write('solid.js', transform(SOLID, { filename: 'solid.jsx', configFile: false, presets: [[solid, { generate: 'dom' }]] }).code),
  Angular: write('angular.ts', ANGULAR),
};

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu'],
});
for (const [framework, entry] of Object.entries(ENTRIES)) {
  const { text } = buildSync({
    entryPoints: [entry],
    alias: { 'bench:common': common },
    loader: { '.svelte': 'js' },
    bundle: true,
    minify: true,
    keepNames: true,
    write: false,
    format: 'iife',
    globalName: 'Bench',
    conditions: ['production', 'svelte'],
    tsconfigRaw: { compilerOptions: { experimentalDecorators: true, useDefineForClassFields: false } },
    define: {
      'process.env.NODE_ENV': '"production"',
      ngDevMode: 'false',
      __VUE_OPTIONS_API__: 'false',
      __VUE_PROD_DEVTOOLS__: 'false',
      __VUE_PROD_HYDRATION_MISMATCH_DETAILS__: 'false',
    },
  }).outputFiles[0];
  const page = await browser.newPage();
  await page.addScriptTag({ content: text });
  const { mount, key } = await page.evaluate('Bench.run()');
  await page.close();
  report('P11', `${framework}: a keystroke among 1,000 fields, against signals by hand`, compared(key), 1.7);
  report('P11', `${framework}: mounting 1,000 fields, against signals by hand`, compared(mount), 1.85);
}
await browser.close();
