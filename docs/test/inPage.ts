// Code of the documentation in a real browser, on a page with its HTML.

import { parse, compileScript } from '@vue/compiler-sfc';
import { buildSync } from 'esbuild';
import type { Browser, Page, Request } from 'playwright-core';
import { SOURCE } from '../../packages/upper-gate/__tests__/browser/launch.ts';
import type { Variant } from '../live/blocks.ts';
import { root } from './examples.ts';

export interface Replied {
  readonly status: number;
  readonly contentType?: string;
  readonly body?: string;
}
export type Reply = (request: Request) => Replied | Promise<Replied>;

interface Opening {
  /** A module: TypeScript, with JSX or without. */
  readonly code: string;
  readonly html: string;
  /** What the server answers; default 201. */
  readonly reply?: Reply;
  /** Behind the host, in the address of the page. */
  readonly path?: string;
}

/** Bundles a module with the library's sources. */
export function bundle(code: string, platform: 'browser' | 'node' = 'browser'): string {
  const { outputFiles } = buildSync({
    stdin: { contents: code, resolveDir: root, loader: 'tsx' },
    bundle: true,
    write: false,
    format: 'esm',
    platform,
    jsx: 'automatic',
    conditions: [SOURCE],
    define:
      platform === 'browser'
        ? { 'process.env.NODE_ENV': '"development"', __VUE_OPTIONS_API__: 'true', __VUE_PROD_DEVTOOLS__: 'false', __VUE_PROD_HYDRATION_MISMATCH_DETAILS__: 'false' }
        : {},
    // What only a server needs is loaded by it alone.
    ...(platform === 'node' ? { packages: 'external' as const } : { external: ['@fastify/busboy'] }),
  });
  return outputFiles[0]!.text;
}

/** A component of Vue as TypeScript, under a name. */
export function componentOf(source: string, name: string): string {
  const { descriptor, errors } = parse(source);
  if (errors.length > 0) throw errors[0]!;
  const { content } = compileScript(descriptor, { id: 'docs', inlineTemplate: true });
  return content.replace('export default', `const ${name} =`);
}

/** The code of a recipe as a module that shows it. */
export const shownBy: Readonly<Record<Variant, (code: string) => string>> = {
  plain: (code) => code,
  react: (code) => `${code}\nimport { createRoot } from 'react-dom/client'; createRoot(document.querySelector('#root')!).render(<App />);`,
  vue: (source) => `${componentOf(source, 'App')}\nimport { createApp } from 'vue'; createApp(App as never).mount('#root');`,
};

/** Opens a page with some HTML, and runs code there. @returns also what went wrong, and what was asked of the server */
export async function openPage(
  browser: Browser,
  { code, html, reply = () => ({ status: 201 }), path = '' }: Opening,
): Promise<{ page: Page; faults: string[]; requests: Request[] }> {
  const text = bundle(code);
  const [faults, requests]: [string[], Request[]] = [[], []];
  const page = await browser.newPage();
  page.setDefaultTimeout(20_000);
  page.on('pageerror', (error) => faults.push(String(error)));
  page.on('console', (message) => message.type() === 'warning' && faults.push(message.text()));
  await page.route('**/*', async (route) => {
    const request = route.request();
    if (request.resourceType() === 'document') return route.fulfill({ contentType: 'text/html; charset=utf-8', body: `<!doctype html><title>Recipe</title>${html}` });
    requests.push(request);
    return route.fulfill(await reply(request));
  });
  await page.goto(`http://recipes.test/${path}`);
  await page.addScriptTag({ type: 'module', content: text });
  return { page, faults, requests };
}
