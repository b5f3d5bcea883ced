// Runs the checks of `npm test` beside each other, each as soon as what it needs is done: `node scripts/check.mjs` runs all of
// them, `node scripts/check.mjs lint types` some. What a check prints comes in one piece, with its time. Fails if one does.
// With THOROUGH=1, as in CI, it looks at everything: types of tests and scripts in lint, the formatting of all files, the
// packages as they are installed, all attacks.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { availableParallelism } from 'node:os';
import { delimiter, join } from 'node:path';

const isThorough = process.env['THOROUGH'] !== undefined;
const named = process.argv.slice(2);
/** Whether a check does all that it can: in CI, and where somebody asks for it. */
const isWhole = (name) => isThorough || named.includes(name);

/** Runs tests. Those in a browser wait for half of the time, so two processes of them keep one processor busy. */
const jest = (project, workers) => `jest --selectProjects ${project} --maxWorkers=${workers}`;

/** The tests that Firefox runs, of some bindings: not those of what a browser sends, which cannot be seen over WebDriver BiDi. */
const IN_FIREFOX = '^(plain|elements|React|Vue)(?!.*(without script, a refused|without a handler, a form))';

/**
 * The checks, with the commands that each runs one after the other and the checks that have to be done before. Each keeps about
 * one processor busy. The library's tests run on its sources, so they need no build. What others wait for begins first.
 */
const CHECKS = {
  compile: { run: ['node scripts/build.mjs compile'] },
  chromium: { run: ['node scripts/browser.mjs'] },
  // (The binding for Angular is tested as its compiler writes it.)
  browser: { run: [jest('browser', 2)], needs: ['chromium', 'compile'] },
  pages: { run: ['node scripts/build.mjs pages'], needs: ['compile'] },
  examples: { run: [jest('examples', 2)], needs: ['pages', 'chromium'] },
  site: { run: ['node scripts/build.mjs site playground'], needs: ['compile'] },
  docs: { run: [jest('docs', 2)], needs: ['site', 'pages', 'chromium'] },
  ...(isThorough && {
    consume: {
      run: ['npm ci --prefix scripts/consumers --no-audit --no-fund --loglevel=error', 'node scripts/consumers/consume.mjs'],
      needs: ['compile', 'chromium'],
    },
    // The same table with the inspector open, which has no effect on the page.
    inspected: {
      run: [`INSPECTED=1 ${jest('browser', 1)} --testPathPatterns "bindings|accessibility" -t "^plain"`],
      needs: ['chromium', 'compile'],
    },
    // The tables that hold for every engine, where there is a second one.
    firefox: {
      run: [
        'node scripts/browser.mjs firefox',
        `if test -x "\${FIREFOX:-/usr/bin/firefox-esr}"; then env -u THOROUGH ENGINE=firefox ${jest('browser', 2)} --testPathPatterns "bindings|accessibility" -t "${IN_FIREFOX}"; fi`,
      ],
      needs: ['chromium', 'compile'],
    },
  }),
  cli: { run: [jest('cli', 1)], needs: ['compile', 'chromium'] },
  lint: { run: ['eslint .', 'node scripts/format.mjs', ...(isWhole('lint') ? ['npm run -s lint:tidy'] : [])], needs: ['compile'] },
  library: { run: [jest('library', 1)] },
  types: {
    run: [
      'node node_modules/typescript-native/bin/tsc -p tsconfig.check.json',
      ...(isWhole('types')
        ? [
            'vue-tsc -p examples/passage-vue',
            'vue-tsc -p examples/component-kits',
            'svelte-check --workspace examples/passage-svelte --tsconfig ./tsconfig.json --fail-on-warnings',
            'node node_modules/typescript/bin/tsc -p tsconfig.check.json',
          ]
        : []),
    ],
    needs: ['compile'],
  },
  drill: { run: [`node drill/run.mjs${isThorough ? ' --long' : ''}`], needs: ['pages'] },
  api: { run: ['node scripts/api.mjs'], needs: ['compile'] },
  size: { run: ['node bench/size.mjs'], needs: ['compile'] },
};

const chosen = new Set();
const choose = (name) => {
  if (!Object.hasOwn(CHECKS, name)) throw new Error(`There is no check "${name}". There are: ${Object.keys(CHECKS).join(', ')}.`);
  CHECKS[name].needs?.forEach(choose);
  chosen.add(name);
};
(named.length > 0 ? named : Object.keys(CHECKS)).forEach(choose);

/** What is built here is not built again by what needs it (scripts/buildForTests.mjs). */
const env = { ...process.env, BUILT: '1', PATH: [join(import.meta.dirname, '../node_modules/.bin'), process.env['PATH']].join(delimiter) };

/** Runs a check. @returns whether it passed */
async function run(name) {
  const started = performance.now();
  let said = '';
  let status = 0;
  for (const command of CHECKS[name].run) {
    const child = spawn(command, { shell: true, env, stdio: ['ignore', 'pipe', 'pipe'] });
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (said += text));
    [status] = await once(child, 'close');
    if (status !== 0) break;
  }
  const seconds = Math.round((performance.now() - started) / 1000);
  console.log(`${said}${status === 0 ? '✓' : '✗'} ${name} (${seconds} s)`);
  return status === 0;
}

const room = availableParallelism();
const waiting = Object.keys(CHECKS).filter((name) => chosen.has(name));
const running = new Map();
const passed = new Set();
const failed = [];
while (waiting.length + running.size > 0) {
  for (const name of [...waiting]) {
    const { needs = [] } = CHECKS[name];
    if (needs.some((other) => failed.includes(other))) {
      failed.push(name);
      waiting.splice(waiting.indexOf(name), 1);
      console.log(`✗ ${name}: not run, since what it needs has failed`);
    } else if (running.size < room && needs.every((other) => passed.has(other))) {
      waiting.splice(waiting.indexOf(name), 1);
      running.set(
        name,
        run(name).then((isPassed) => ({ name, isPassed })),
      );
    }
  }
  if (running.size === 0) continue;
  const { name, isPassed } = await Promise.race(running.values());
  running.delete(name);
  if (isPassed) passed.add(name);
  else failed.push(name);
}
if (failed.length > 0) {
  console.error(`Failed: ${failed.join(', ')}.`);
  process.exitCode = 1;
}
