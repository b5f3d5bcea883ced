import { render } from 'svelte/server';
import Form from 'svelte-scenes/Form.svelte';
import type { Answer } from './forms.ts';

export { received } from './server.ts';
export const draw = (posted?: Answer): string => render(Form, { props: { posted } }).body;
