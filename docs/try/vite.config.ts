// Builds the playground. The page that runs what is written is built apart, as a plain script: a page without an origin loads no modules.

import { copyFileSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { build, defineConfig, type Plugin } from 'vite';

const here = import.meta.dirname;
const out = join(here, 'dist');

const runPage: Plugin = {
  name: 'run-page',
  async closeBundle() {
    await build({
      configFile: false,
      root: here,
      logLevel: 'error',
      build: {
        outDir: join(out, 'run'),
        emptyOutDir: false,
        lib: { entry: join(here, 'run.ts'), formats: ['iife'], name: 'run', fileName: () => 'run.js' },
      },
    });
    mkdirSync(join(out, 'run'), { recursive: true });
    copyFileSync(join(here, 'run.html'), join(out, 'run/run.html'));
    copyFileSync(join(here, '../site/assets/base.css'), join(out, 'run/base.css'));
    copyFileSync(join(here, '../live/frame.css'), join(out, 'run/run.css'));
  },
};

export default defineConfig({
  root: here,
  base: './',
  plugins: [runPage],
  worker: { format: 'es' },
  build: { outDir: out, emptyOutDir: true, target: 'es2022', modulePreload: { polyfill: false }, chunkSizeWarningLimit: 20_000 },
});
