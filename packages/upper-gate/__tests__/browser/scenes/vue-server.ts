import { createSSRApp } from 'vue';
import { renderToString } from 'vue/server-renderer';
import type { Answer } from './forms.ts';
import { Form } from './vue.ts';

export { received } from './server.ts';
export const draw = (posted?: Answer): Promise<string> => renderToString(createSSRApp(Form, { posted }));
