import { createSSRApp } from 'vue';
import { renderToString } from 'vue/server-renderer';
import { Form } from './vue.ts';

export const draw = (): Promise<string> => renderToString(createSSRApp(Form));
