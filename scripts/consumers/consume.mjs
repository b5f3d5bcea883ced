// Uses the packages as they are published, each in a new folder: what is in them, bundlers, versions of TypeScript, Jest
// with jsdom and happy-dom in ES module and CommonJS projects, `require`, the command. Prints what it does; fails where one does.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { nodeResolve } from '@rollup/plugin-node-resolve';
import { build as esbuild, transformSync } from 'esbuild';
import { svelte } from '@sveltejs/vite-plugin-svelte';
import vue from '@vitejs/plugin-vue';
import solid from 'vite-plugin-solid';
import { transformAsync } from '@babel/core';
import { chromium } from 'playwright-core';
import { publint } from 'publint';
import { formatMessage } from 'publint/utils';
import { rollup } from 'rollup';
import { createServer, build as vite } from 'vite';
import webpack from 'webpack';

const root = join(import.meta.dirname, '../..');
const folder = mkdtempSync(join(tmpdir(), 'upper-gate-consumed-'));
const require = createRequire(import.meta.url);
// (Beside the TypeScript that it takes.)
const inAngular = createRequire(join(root, 'packages/angular/package.json'));
const [compilerCli, linker] = await Promise.all(
  ['@angular/compiler-cli', '@angular/compiler-cli/linker/babel'].map((name) => import(inAngular.resolve(name))),
);
const PACKAGES = { 'upper-gate': 'packages/upper-gate', 'upper-gate-cli': 'packages/cli' };
/** Files of the packages, by name. */
const tarballs = {};
let failed = 0;

/** One thing that somebody does with the packages. @param act returns what is wrong, if anything */
async function consume(name, act) {
  let wrong;
  try {
    wrong = await act();
  } catch (error) {
    wrong = error.stdout?.toString() || error.message;
  }
  if (wrong) failed += 1;
  console.log(`${wrong ? 'FAILED' : 'ok'}  ${name}${wrong ? `\n${wrong}` : ''}`);
}

/** Links what is installed here into another folder, but for the packages themselves. */
function linkInstalled(into) {
  const link = (from, to) => symlinkSync(from, to, 'junction');
  mkdirSync(into, { recursive: true });
  for (const name of readdirSync(join(root, 'node_modules'))) {
    if (name.startsWith('.') || name in PACKAGES) continue;
    if (!name.startsWith('@')) link(join(root, 'node_modules', name), join(into, name));
    else {
      mkdirSync(join(into, name));
      for (const inner of readdirSync(join(root, 'node_modules', name)))
        link(join(root, 'node_modules', name, inner), join(into, name, inner));
    }
  }
}

const unpack = (name, into) => {
  mkdirSync(into, { recursive: true });
  execFileSync('tar', ['-xzf', tarballs[name], '-C', into, '--strip-components=1']);
};

/** A project with the packages installed. @param files by their paths */
function project(name, files) {
  const at = join(folder, name);
  linkInstalled(join(at, 'node_modules'));
  for (const each of Object.keys(PACKAGES)) unpack(each, join(at, 'node_modules', each));
  for (const [file, text] of Object.entries({ 'package.json': JSON.stringify({ type: 'module' }), ...files })) {
    mkdirSync(dirname(join(at, file)), { recursive: true });
    writeFileSync(join(at, file), text);
  }
  return at;
}

const node = (at, ...args) => execFileSync(process.execPath, args, { cwd: at, encoding: 'utf8' });
const filesIn = (at) =>
  readdirSync(at, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map(({ parentPath, name }) => join(parentPath, name));

/** The files that somebody has after following docs/quick-start.md, for each way, and the server. */
function readQuickStart() {
  const text = readFileSync(join(root, 'docs/quick-start.md'), 'utf8');
  const blocks = (fence) => [...text.matchAll(new RegExp(`^\`\`\`${fence}\\n([\\s\\S]*?)^\`\`\``, 'gm'))].map(([, code]) => code);
  const schema = "import { passage } from './passage.ts';\n";
  const [[passage], [form], [booking], [main, elements, server], [react], [svelte], [solid], [angular]] = [
    'ts',
    'html',
    'vue',
    'ts page',
    'tsx page',
    'svelte',
    'solid',
    'angular',
  ].map(blocks);
  const page = (body, script) => `${body}<script type="module" src="/${script}"></script>`;
  const place = '<div id="root"></div>';
  const mount = "import { createApp } from 'vue';\nimport Booking from './Booking.vue';\ncreateApp(Booking).mount('#root');\n";
  const pages = {
    plain: { 'index.html': page(form, 'main.ts'), 'main.ts': schema + main },
    React: { 'index.html': page(place, 'main.tsx'), 'main.tsx': schema + react },
    Vue: { 'index.html': page(place, 'main.ts'), 'main.ts': mount, 'Booking.vue': booking },
    Svelte: {
      'index.html': page(place, 'main.ts'),
      'main.ts':
        "import { mount } from 'svelte';\nimport Booking from './Booking.svelte';\nmount(Booking, { target: document.querySelector('#root')! });\n",
      'Booking.svelte': svelte,
    },
    Solid: { 'index.html': page(place, 'main.tsx'), 'main.tsx': schema + solid },
    Angular: {
      'index.html': page('<app-root></app-root>', 'compiled/main.js'),
      'main.ts':
        "import { provideZonelessChangeDetection } from '@angular/core';\nimport { bootstrapApplication } from '@angular/platform-browser';\nimport { Booking } from './booking';\nvoid bootstrapApplication(Booking, { providers: [provideZonelessChangeDetection()] });\n",
      'booking.ts': angular,
    },
    'custom elements': {
      'index.html': page(`<upper-gate-form gate="booking">${form}</upper-gate-form>`, 'main.ts'),
      'main.ts': schema + elements,
    },
  };
  for (const files of Object.values(pages)) files['passage.ts'] = passage;
  return { pages, server: transformSync(schema + server, { loader: 'ts' }).code, passage };
}

/** Angular's compiler, as its command runs it: components are compiled ahead, and packages are linked as they are loaded. */
function angular(at) {
  const { createEs2015LinkerPlugin } = linker;
  const { ConsoleLogger, formatDiagnostics, LogLevel, NodeJSFileSystem, performCompilation } = compilerCli;
  const link = createEs2015LinkerPlugin({ fileSystem: new NodeJSFileSystem(), logger: new ConsoleLogger(LogLevel.warn) });
  const options = {
    rootDir: at,
    outDir: join(at, 'compiled'),
    target: 99,
    module: 99,
    moduleResolution: 100,
    strict: true,
    skipLibCheck: true,
    strictTemplates: true,
    lib: ['lib.es2023.d.ts', 'lib.dom.d.ts'],
  };
  const { diagnostics } = performCompilation({ rootNames: [join(at, 'main.ts')], options });
  if (diagnostics.length > 0) throw new Error(formatDiagnostics(diagnostics));
  return {
    name: 'angular',
    enforce: 'pre',
    resolveId: (id) => (/^\.\/\w+$/.test(id) ? join(at, 'compiled', `${id.slice(2)}.js`) : null),
    async transform(code, id) {
      if (!code.includes('ɵɵngDeclare')) return null;
      return {
        code: (await transformAsync(code, { filename: id, configFile: false, babelrc: false, compact: false, plugins: [link] })).code,
      };
    },
  };
}

/** What each way needs of Vite. */
const PLUGINS = { Vue: () => [vue()], Svelte: () => [svelte()], Solid: () => [solid()], Angular: (at) => [angular(at)] };

/** Follows the quick start in a browser, against its server. @returns what is wrong, if anything */
async function tryQuickStart(way, files, server) {
  const port = 18_080;
  const compiled = transformSync(files['passage.ts'], { loader: 'ts' }).code;
  const at = project(`quick-start-${way}`, {
    ...files,
    'passage.js': compiled,
    'server.js': server.replace('./passage.ts', './passage.js').replace('8080', port),
  });
  const api = spawn(process.execPath, ['server.js'], { cwd: at, stdio: 'inherit' });
  const pages = await createServer({
    root: at,
    configFile: false,
    logLevel: 'error',
    plugins: PLUGINS[way]?.(at) ?? [],
    // (What is installed is linked, so it lies elsewhere.)
    server: { port: 15_300, fs: { strict: false }, proxy: { '/passages': `http://localhost:${port}` } },
  });
  const browser = await chromium.launch({ executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox'] });
  try {
    await pages.listen();
    const page = await browser.newPage();
    page.setDefaultTimeout(15_000);
    const told = [];
    page.on('dialog', (dialog) => void dialog.accept().then(() => told.push(dialog.message())));
    page.on('pageerror', (error) => told.push(String(error)));
    await page.goto(pages.resolvedUrls.local[0]);
    await page.getByLabel('Vessel name').focus();
    await page.getByText('Book', { exact: true }).click();
    await page.getByText('Vessel name is required').waitFor();
    for (const [label, value] of Object.entries({ 'Vessel name': 'Otter', 'Beam (m)': '3.5', 'E-mail': 'otter@example.org' }))
      await page.getByLabel(label).fill(value);
    await page.getByText('Book', { exact: true }).click();
    if (way === 'plain' || way === 'custom elements')
      await page.waitForFunction(() => document.querySelector('form').dataset.gateState === 'valid');
    else await page.getByText('Booked').waitFor();
    return told.filter((text) => text !== 'Booked: Otter').join('\n');
  } finally {
    await browser.close();
    await pages.close();
    api.kill();
  }
}

/** What every application might have: the form on a page, and what else there is without a framework. */
const APP = `
import { boolean, createGate, group, length, number, range, required, text, validate } from 'upper-gate';
import { bindForm, errorSummary, templateRows } from 'upper-gate/dom';
import { toAttributes } from 'upper-gate/html';
import { describeSchema } from 'upper-gate/interop';
import { fromJsonSchema, toJsonSchema } from 'upper-gate/json-schema';
import { de } from 'upper-gate/messages/de';
import { changesOf } from 'upper-gate/saving';
import { reviewOf } from 'upper-gate/wizard';

const passage = group({ vessel: text('Vessel', required(), length({ min: 2 })), beam: number('Beam', range({ max: 5 })), ok: boolean('Fine') });
const gate = createGate(passage, { initial: { vessel: 'Otter' }, messages: de });
gate.set({ beam: '3.5' });
if (globalThis.document) bindForm(document.forms[0], gate, { rows: templateRows, summary: errorSummary });
console.log(JSON.stringify([
  validate(fromJsonSchema(toJsonSchema(passage)), { vessel: 'O' }, { messages: de }).findings.map(({ message }) => message),
  changesOf(gate), reviewOf(gate, ['ok']).map(({ text }) => text), toAttributes(passage.fields.beam), Object.keys(describeSchema(passage).fields),
]));
`;
const SAYS = '[["Vessel: mindestens 2 Zeichen"],{"beam":3.5},["Nein"],{"type":"number","max":"5","step":"any"},["vessel","beam","ok"]]';
const said = (text) => (text.trim() === SAYS ? undefined : `It says ${text}`);

const BUNDLERS = {
  esbuild: (at) =>
    esbuild({ entryPoints: [join(at, 'app.js')], outfile: join(at, 'out/app.mjs'), bundle: true, format: 'esm', logLevel: 'error' }),
  async rollup(at) {
    const bundle = await rollup({ input: join(at, 'app.js'), plugins: [nodeResolve({ browser: true })] });
    await bundle.write({ file: join(at, 'out/app.mjs') });
  },
  vite: (at) =>
    vite({
      root: at,
      logLevel: 'error',
      build: { outDir: 'out', lib: { entry: join(at, 'app.js'), formats: ['es'], fileName: () => 'app.mjs' } },
    }),
  webpack: (at) =>
    new Promise((resolve, reject) => {
      const output = { path: join(at, 'out'), filename: 'app.mjs', module: true, chunkFormat: 'module' };
      webpack(
        { mode: 'production', context: at, entry: './app.js', target: ['web', 'es2022'], experiments: { outputModule: true }, output },
        (error, stats) => (error || stats.hasErrors() ? reject(error ?? new Error(stats.toString('errors-only'))) : resolve()),
      );
    }),
};

/** What uses every entry, types of all kinds among it. */
const TYPED = `
import { appliesWhen, createGate, group, list, number, recursive, required, text, validate, variant, type DataOf, type Node } from 'upper-gate';
import * as binding from 'upper-gate/binding';
import * as dom from 'upper-gate/dom';
import * as html from 'upper-gate/html';
import * as interop from 'upper-gate/interop';
import * as json from 'upper-gate/json-schema';
import { ar } from 'upper-gate/messages/ar';
import { fromOpenApi } from 'upper-gate/openapi';
import { changesOf } from 'upper-gate/saving';
import * as server from 'upper-gate/server';
import { isComplete } from 'upper-gate/wizard';

interface Lock { name: string; sides: Lock[] }
const lock = group({ name: text('Name', required()), sides: list('Sides', recursive((): Node<Lock> => lock)) });
const cargo = variant('Cargo', 'load', { goods: group({ tonnes: number('Tonnes', required()) }), none: group({}) }, required());
const passage = group({ lock, cargo, tug: text('Tug') }).with(appliesWhen({ tug: (it) => it.lock.sides.length > 0 }));
const data: DataOf<typeof passage> = { lock: { name: 'a', sides: [] }, cargo: { load: 'goods', tonnes: 3 }, tug: undefined };
const gate = createGate(passage, { initial: data, messages: ar, submit: (sent) => sent.cargo.load });
const name: string = gate.field('lock.sides.0.name').raw;
// @ts-expect-error no such field
gate.field('lock.nome');
export const all: readonly unknown[] = [binding, dom, html, interop, json, fromOpenApi, server, name, changesOf(gate).tug, isComplete(gate, ['lock']), validate(passage, {}).ok];
`;

try {
  for (const [name, at] of Object.entries(PACKAGES)) {
    const packed = execFileSync('npm', ['pack', '--json', '--pack-destination', folder], { cwd: join(root, at), encoding: 'utf8' });
    const [{ filename }] = Object.values(JSON.parse(packed));
    tarballs[name] = join(folder, filename);
    const unpacked = join(folder, `unpacked/${name}`);
    unpack(name, unpacked);
    await consume(`${name}: what is in it`, () => {
      const files = filesIn(unpacked);
      const lacking = ['README.md', 'LICENSE', 'package.json'].filter((file) => !existsSync(join(unpacked, file)));
      const useless = files.filter((file) => file.endsWith('.tsbuildinfo'));
      const sourceless = files.filter(
        (file) =>
          file.endsWith('.map') &&
          !JSON.parse(readFileSync(file, 'utf8')).sources.every((source) => existsSync(join(dirname(file), source))),
      );
      return [...lacking.map((file) => `It lacks ${file}.`), ...useless, ...sourceless.map((file) => `${file} has no sources.`)].join('\n');
    });
    await consume(`${name}: what would be published is what was packed`, () => {
      const { stderr } = spawnSync('npm', ['publish', '--dry-run', '--ignore-scripts', '--json'], {
        cwd: join(root, at),
        encoding: 'utf8',
      });
      return stderr
        .split('\n')
        .filter((line) => line.startsWith('npm warn publish') && !/logged in/.test(line))
        .join('\n');
    });
    await consume(`${name}: publint`, async () => {
      const { messages, pkg } = await publint({ pkgDir: unpacked, level: 'suggestion' });
      return messages.map((message) => formatMessage(message, pkg, { color: false })).join('\n');
    });
  }
  await consume('upper-gate: its types, by every way to resolve them', () => {
    const attw = join(dirname(require.resolve('@arethetypeswrong/cli/package.json')), 'dist/index.js');
    // The source stands beside the build: its files are no entries.
    node(folder, attw, tarballs['upper-gate'], '--profile', 'esm-only', '--format', 'json');
  });

  for (const [name, bundle] of Object.entries(BUNDLERS))
    await consume(`bundled by ${name}`, async () => {
      const at = project(name, { 'app.js': APP });
      await bundle(at);
      return said(node(at, 'out/app.mjs'));
    });
  await consume('imported and required by Node', () => {
    const at = project('node', { 'app.js': APP, 'app.cjs': APP.replace(/import (\{[^}]*\}) from ('[^']*');/g, 'const $1 = require($2);') });
    return said(node(at, 'app.js')) ?? said(node(at, '--no-warnings', 'app.cjs'));
  });
  for (const version of ['typescript-5.4', 'typescript-5.9', 'typescript-6', 'typescript-7'])
    for (const resolution of ['nodenext', 'bundler'])
      await consume(`${version}, ${resolution}`, () => {
        const at = project(`${version}-${resolution}`, { 'app.ts': TYPED });
        const module = resolution === 'bundler' ? 'esnext' : 'nodenext';
        const lib = 'es2023,dom,dom.iterable,esnext.disposable';
        const options = [
          '--strict',
          '--noEmit',
          '--skipLibCheck',
          'false',
          '--target',
          'es2022',
          '--module',
          module,
          '--moduleResolution',
          resolution,
          '--lib',
          lib,
        ];
        const { bin } = JSON.parse(readFileSync(join(import.meta.dirname, 'node_modules', version, 'package.json'), 'utf8'));
        const { stdout } = spawnSync(
          process.execPath,
          [join(import.meta.dirname, 'node_modules', version, bin.tsc), ...options, '--types', 'node', 'app.ts'],
          { cwd: at, encoding: 'utf8' },
        );
        // What is wrong in the types of others is not ours.
        return stdout
          .split('\n')
          .filter((line) => /^(app\.ts|node_modules\/upper-gate|error TS)/.test(line))
          .join('\n');
      });
  await consume('the command', () => {
    const schema =
      "import { group, number, range, text, required } from 'upper-gate';\nexport default group({ vessel: text('Vessel', required()), beam: number('Beam', range({ max: 5 })) });\n";
    const at = project('command', { 'passage.ts': schema, 'good.json': '{"vessel":"Otter","beam":3}', 'bad.json': '{"beam":9}' });
    const command = join(at, 'node_modules/upper-gate-cli/bin/upper-gate.js');
    const run = (file) =>
      spawnSync(process.execPath, [command, 'check', 'passage.ts', file, '--source', 'json'], { cwd: at, encoding: 'utf8' });
    const [good, bad] = [run('good.json'), run('bad.json')];
    return good.status === 0 && bad.status === 1 && bad.stdout.includes('Vessel is required')
      ? undefined
      : `${good.stdout}${good.stderr}${bad.stdout}${bad.stderr}`;
  });

  const quickStart = readQuickStart();
  for (const [way, files] of Object.entries(quickStart.pages))
    await consume(`the quick start, as it is written: ${way}`, () => tryQuickStart(way, files, quickStart.server));

  const forms = readFileSync(join(root, 'packages/upper-gate/__tests__/environments/forms.ts'), 'utf8');
  const page = readFileSync(join(root, 'docs/testing.md'), 'utf8');
  const settings = {
    module: { 'jest.config.js': 'export default { transform: {} };' },
    commonjs: {
      'jest.config.cjs': /^\/\/ jest\.config\.cjs\n([\s\S]*?)^```/m.exec(page)[1],
    },
  };
  for (const [type, files] of Object.entries(settings)) {
    const tests = ['jsdom', '@happy-dom/jest-environment'].map((environment) => [
      `${environment.replace(/\W/g, '')}.test.js`,
      `/** @jest-environment ${environment} */\nimport { testForms } from './forms.js';\n\ntestForms();\n`,
    ]);
    const at = project(`jest-${type}`, {
      'package.json': JSON.stringify({ type }),
      'forms.js': transformSync(forms, { loader: 'ts', format: 'esm' }).code.replace("'./forms.ts'", "'./forms.js'"),
      ...files,
      ...Object.fromEntries(tests),
      // The test of a page that the docs show, as it is written.
      'shown.test.js': /^```js\n(\/\*\* @jest-environment[\s\S]*?)^```/m.exec(page)[1],
    });
    await consume(`Jest, in a project of type ${type}`, () => {
      const jest = [join(root, 'node_modules/jest/bin/jest.js'), '--rootDir', at, '--silent', '--config', join(at, Object.keys(files)[0])];
      const options = type === 'module' ? ['--experimental-vm-modules', '--no-warnings'] : [];
      const { status } = spawnSync(process.execPath, [...options, ...jest], {
        cwd: at,
        stdio: 'inherit',
        // The bundlers above have set it to production.
        env: { ...process.env, NODE_ENV: 'test' },
      });
      return status === 0 ? undefined : 'Its tests fail.';
    });
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
process.exitCode = failed > 0 ? 1 : 0;
