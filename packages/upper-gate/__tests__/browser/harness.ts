// The bindings that the tests compare, and the scenes that each draws.

import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import type { Page } from 'playwright-core';
import { transformSync as transform } from '@babel/core';
import solid from 'babel-preset-solid';
import { buildSync, transformSync } from 'esbuild';
import { compile as compileSvelte } from 'svelte/compiler';
import { SOURCE } from './launch.ts';
import { THOROUGH } from '../runs.ts';

const SCENES = join(__dirname, 'scenes');
const OLDEST = join(__dirname, '../../../oldest-peers/node_modules');
const REACT_18 = { react: join(OLDEST, 'react'), 'react-dom': join(OLDEST, 'react-dom') };

/** Where scenes are compiled to, by compilers of their frameworks, for a page or for a server. */
function compiled(files: readonly string[], generate: string, compile: (file: string) => string): string {
  const folder = join(__dirname, '../../node_modules/.cache/scenes', generate);
  mkdirSync(folder, { recursive: true });
  for (const file of files) writeFileSync(join(folder, basename(file)), compile(file));
  return folder;
}

/** Scenes that another compiler than esbuild writes first: what their folder is called in imports, and how to make it. */
const COMPILED: Readonly<Record<string, (platform: 'browser' | 'node') => Record<string, string>>> = {
  svelte(platform) {
    const generate = platform === 'node' ? 'server' : 'client';
    const folder = join(SCENES, 'svelte');
    const files = readdirSync(folder).map((name) => join(folder, name));
    return {
      'svelte-scenes': compiled(files, generate, (filename) => compileSvelte(readFileSync(filename, 'utf8'), { filename, generate, dev: true }).js.code),
    };
  },
  solid(platform) {
    const generate = platform === 'node' ? 'ssr' : 'dom';
    const files = ['solid.tsx', 'solid-server.tsx'].map((name) => join(SCENES, name));
    const compile = (filename: string): string => {
      const { code } = transformSync(readFileSync(filename, 'utf8').replaceAll("'./", "'scenes/").replaceAll("'scenes/solid.tsx'", "'solid-scenes/solid.tsx'"), {
        loader: 'tsx',
        jsx: 'preserve',
      });
      return transform(code, { filename, configFile: false, presets: [[solid, { generate, hydratable: true }]] })!.code!;
    };
    return { 'solid-scenes': compiled(files, generate, compile) };
  },
};

/** A scene as a script, for a page or for a server. */
export function bundle(file: string, platform: 'browser' | 'node', alias: Record<string, string>): string {
  const [name] = file.split(/[.-]/) as [string];
  const made = COMPILED[name]?.(platform);
  return buildSync({
    alias: { scenes: SCENES, ...made, ...alias },
    loader: { '.svelte': 'js' },
    entryPoints: [name === 'solid' ? join(made!['solid-scenes']!, file) : join(SCENES, file)],
    bundle: true,
    write: false,
    platform,
    jsx: 'automatic',
    tsconfigRaw: { compilerOptions: { experimentalDecorators: true, useDefineForClassFields: false } },
    format: platform === 'node' ? 'cjs' : 'iife',
    globalName: 'Scene',
    // (Svelte and Solid have other code for development, and for browsers.)
    conditions: [SOURCE, ...(made === undefined ? [] : ['development']), ...(platform === 'browser' ? ['svelte'] : ['node'])],
    define: { 'process.env.NODE_ENV': '"development"', __VUE_OPTIONS_API__: 'true', __VUE_PROD_DEVTOOLS__: 'false', __VUE_PROD_HYDRATION_MISMATCH_DETAILS__: 'true' },
  }).outputFiles[0]!.text;
}

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

/** Outside of CI, some bindings are held to the behaviours that frameworks differ in most. */
const SHORT = !THOROUGH;

type Binding = readonly [name: string, scene: string, server: string | undefined, alias: Record<string, string>, isShort: boolean];
/** What stands for React where Preact draws. */
const PREACT = {
  react: 'preact/compat',
  'react-dom': 'preact/compat',
  'react-dom/client': 'preact/compat/client',
  'react-dom/server': 'preact/compat/server',
  'react/jsx-runtime': 'preact/jsx-runtime',
};
/** CI tests the oldest versions of frameworks as well, which take the same code, and the example of an own binding. */
const MORE_BINDINGS: readonly Binding[] = THOROUGH
  ? [
      ['React 18', 'react.tsx', 'react-server.tsx', REACT_18, false],
      ['Preact', 'react.tsx', 'react-server.tsx', PREACT, true],
      ['an own binding', 'lit.ts', undefined, {}, false],
    ]
  : [];

/** Each binding: its name, its scenes in a page and on a server, and the versions of packages that it takes. */
export const BINDINGS: readonly Binding[] = [
  ['plain', 'plain.ts', 'plain-server.ts', {}, false],
  ['elements', 'elements.ts', 'plain-server.ts', {}, SHORT],
  ['React 19', 'react.tsx', 'react-server.tsx', {}, false],
  ['Vue', 'vue.ts', 'vue-server.ts', {}, false],
  ['Svelte', 'svelte.ts', 'svelte-server.ts', {}, SHORT],
  ['Solid', 'solid.tsx', 'solid-server.tsx', {}, SHORT],
  ['Angular', 'angular.ts', 'angular-server.ts', {}, SHORT],
  ...MORE_BINDINGS,
];
