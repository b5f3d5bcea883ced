// The bindings that the tests compare, and the scenes that each draws.

import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { buildSync } from 'esbuild';
import { compile } from 'svelte/compiler';
import { SOURCE } from './launch.ts';
import { THOROUGH } from '../runs.ts';

const OLDEST = join(__dirname, '../../../oldest-peers/node_modules');
const REACT_18 = { react: join(OLDEST, 'react'), 'react-dom': join(OLDEST, 'react-dom') };

/** The scenes of Svelte, as its compiler writes them for a page or for a server. */
function compiledSvelte(generate: 'client' | 'server'): string {
  const folder = join(__dirname, '../../node_modules/.cache/scenes', generate);
  const scenes = join(__dirname, 'scenes/svelte');
  mkdirSync(folder, { recursive: true });
  for (const filename of readdirSync(scenes))
    writeFileSync(join(folder, filename), compile(readFileSync(join(scenes, filename), 'utf8'), { filename, generate, dev: true }).js.code);
  return folder;
}

/** A scene as a script, for a page or for a server. */
export const bundle = (file: string, platform: 'browser' | 'node', alias: Record<string, string>): string =>
  buildSync({
    alias: {
      ...alias,
      scenes: join(__dirname, 'scenes'),
      ...(file.startsWith('svelte') && { 'svelte-scenes': compiledSvelte(platform === 'node' ? 'server' : 'client') }),
    },
    loader: { '.svelte': 'js' },
    entryPoints: [join(__dirname, 'scenes', file)],
    bundle: true,
    write: false,
    platform,
    jsx: 'automatic',
    format: platform === 'node' ? 'cjs' : 'iife',
    globalName: 'Scene',
    conditions: [SOURCE, 'development', ...(platform === 'browser' ? ['svelte'] : [])],
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
  ['Svelte', 'svelte.ts', 'svelte-server.ts', {}],
  ...MORE_BINDINGS,
];
