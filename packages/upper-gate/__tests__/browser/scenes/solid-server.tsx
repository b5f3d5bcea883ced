/** @jsxImportSource solid-js */
import { generateHydrationScript, renderToString } from 'solid-js/web';
import type { Answer } from './forms.ts';
import { Form } from './solid.tsx';

export { received } from './server.ts';
/** (What Solid needs to find the elements again stands before them.) */
export const draw = (posted?: Answer): string => generateHydrationScript() + renderToString(() => <Form posted={posted} />);
