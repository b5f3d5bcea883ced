// What the tests of the Svelte binding draw in a browser.

import { hydrate as takeOver, mount as draw, unmount, type Component } from 'svelte';
import Either from 'svelte-scenes/Either.svelte';
import Form from 'svelte-scenes/Form.svelte';
import Heard from 'svelte-scenes/Heard.svelte';
import Lost from 'svelte-scenes/Lost.svelte';
import Many from 'svelte-scenes/Many.svelte';
import Moving from 'svelte-scenes/Moving.svelte';
import Nested from 'svelte-scenes/Nested.svelte';
import Sloppy from 'svelte-scenes/Sloppy.svelte';
import type { Answer } from './forms.ts';

export { connect } from 'upper-gate/svelte';
export { draftIn, renders, sent } from './forms.ts';

const mounts = (Scene: Component) => (target: Element) => void draw(Scene, { target });

export function hydrate(target: Element, posted?: Answer): void {
  takeOver(Form, { target, props: { posted } });
}

export function mount(target: Element, _strict: boolean, initial?: object): () => unknown {
  const form = draw(Form, { target, props: { initial } });
  return () => unmount(form);
}

export const mountSloppy = mounts(Sloppy);
export const mountMoving = mounts(Moving);
export const mountEither = mounts(Either);
export const mountNested = mounts(Nested);
export const mountLost = mounts(Lost);
export const mountMany = mounts(Many);
export const mountHeard = mounts(Heard);
