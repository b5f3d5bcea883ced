// The bindings that the tests compare, and the scenes that each draws.

import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { buildSync } from 'esbuild';
import { SOURCE } from './launch.ts';
import { THOROUGH } from '../runs.ts';

const OLDEST = join(__dirname, '../../../oldest-peers/node_modules');
const REACT_18 = { react: join(OLDEST, 'react'), 'react-dom': join(OLDEST, 'react-dom') };

/** A scene as a script, for a page or for a server. */
export const bundle = (file: string, platform: 'browser' | 'node', alias: Record<string, string>): string =>
  buildSync({
    alias,
    entryPoints: [join(__dirname, 'scenes', file)],
    bundle: true,
    write: false,
    platform,
    jsx: 'automatic',
    format: platform === 'node' ? 'cjs' : 'iife',
    globalName: 'Scene',
    conditions: [SOURCE],
    define: { 'process.env.NODE_ENV': '"development"', __VUE_OPTIONS_API__: 'true', __VUE_PROD_DEVTOOLS__: 'false', __VUE_PROD_HYDRATION_MISMATCH_DETAILS__: 'true' },
  }).outputFiles[0]!.text;

let inspector: string | undefined;
/** In CI, the tables also run with the inspector open: it has no effect on the page. Opens it where that is so. */
export async function openInspector(page: Page): Promise<void> {
  if (process.env['INSPECTED'] === undefined) return;
  inspector ??= buildSync({
    stdin: { contents: "import { inspect } from 'upper-gate/inspector'; inspect(undefined, { open: true });", resolveDir: __dirname },
    bundle: true,
    write: false,
    format: 'iife',
    conditions: [SOURCE],
  }).outputFiles[0]!.text;
  // (Room for both.)
  await page.setViewportSize({ width: 1280, height: 1600 });
  await page.addScriptTag({ content: inspector });
}

type Binding = readonly [name: string, scene: string, server: string | undefined, alias: Record<string, string>];
/** CI tests the oldest versions of frameworks as well, which take the same code, and the example of an own binding. */
const MORE_BINDINGS: readonly Binding[] = THOROUGH
  ? [
      ['React 18', 'react.tsx', 'react-server.tsx', REACT_18],
      ['an own binding', 'lit.ts', undefined, {}],
    ]
  : [];

/** Each binding: its name, its scenes in a page and on a server, and the versions of packages that it takes. */
export const BINDINGS: readonly Binding[] = [
  ['plain', 'plain.ts', 'plain-server.ts', {}],
  ['elements', 'elements.ts', 'plain-server.ts', {}],
  ['React 19', 'react.tsx', 'react-server.tsx', {}],
  ['Vue', 'vue.ts', 'vue-server.ts', {}],
  ...MORE_BINDINGS,
];
