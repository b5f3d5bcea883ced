// Takes the pictures of docs/screenshots anew: `npm run screenshots` (needs chromium; for the terminal also xvfb, xterm, imagemagick).
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { setTimeout as sleep } from 'node:timers/promises';
import { chromium } from 'playwright-core';

const folder = 'docs/screenshots';
const size = { width: 1280, height: 800 };

const server = spawn(process.execPath, ['examples/lock-passage/dist-server/server/main.js'], {
  env: { ...process.env, PORT: '0', LOCK_PASSAGE_DATA: 'memory://' },
});
const [line] = await once(server.stdout, 'data');
const url = /http:\S+/.exec(String(line))[0];
const browser = await chromium.launch({
  executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu'],
});

const booking = {
  vessel: 'Otter',
  registration: 'OT-1204',
  lengthM: '17.5',
  beam: '2.1',
  arrival: '2027-05-02',
  email: 'otter@example.org',
  emailAgain: 'otter@example.org',
};
async function fillIn(page, otherwise = {}) {
  for (const [name, value] of Object.entries({ ...booking, ...otherwise })) await page.fill(`#${name}`, value);
  await page.selectOption('#kind', 'narrowboat');
  await page.check('[name=slot][value="13:00"]');
  for (const kit of ['lifejackets', 'lights']) await page.check(`[name=kit][value=${kit}]`);
}

const pictures = {
  'page-at-rest': async () => undefined,
  'page-with-errors': async (page) => {
    await page.fill('#registration', 'MA-4001');
    await page.fill('#beam', '7');
    await page.fill('#vessel', 'O');
    await page.locator('#vessel').press('Enter');
    await page.locator('[data-gate-messages=registration] > *').waitFor();
    await sleep(500);
  },
  'page-checking': async (page) => {
    await fillIn(page);
    await page.check('[name=weather][value=slow]');
    await page.fill('#registration', 'HE-2210');
    await page.locator('#registration').press('Enter');
    await page.locator('#registration[data-gate-state=pending]').waitFor();
    await page.evaluate(() => scrollTo(0, 0));
  },
  'page-accepted-dark': async (page) => {
    await fillIn(page);
    await page.click('#send');
    await page.locator('#outcome p').first().waitFor();
    await page.locator('#outcome').scrollIntoViewIfNeeded();
  },
};
pictures['manifest'] = async (page) => {
  await page.goto(`${url}/manifest.html`);
  const seal = page.locator('.window .crate').nth(2).getByLabel('Seal');
  await seal.fill('s10001');
  await seal.press('End');
  await seal.press('Backspace');
  await seal.press('1');
};
for (const [name, act] of Object.entries(pictures)) {
  const page = await browser.newPage({ viewport: size, locale: 'en-GB', colorScheme: name.endsWith('dark') ? 'dark' : 'light' });
  await page.goto(url);
  await act(page);
  await page.screenshot({ path: `${folder}/${name}.png` });
  await page.close();
}
await browser.close();
server.kill();

// The command, in a terminal window.
const display = ':97';
const screen = spawn('Xvfb', [display, '-screen', '0', '1280x800x24'], { stdio: 'ignore' });
await sleep(1000);
const shell =
  'cd examples/lock-passage; PS4="$ "; set -x; upper-gate check data/schema.ts data/bookings.json; { set +x; } 2>/dev/null; echo; sleep 20';
const env = { ...process.env, DISPLAY: display, PATH: `${process.cwd()}/node_modules/.bin:${process.env['PATH']}` };
const terminal = spawn(
  'xterm',
  ['-geometry', '126x18', '-fa', 'DejaVu Sans Mono', '-fs', '11', '-bg', '#12181a', '-fg', '#e6eeee', '-e', 'bash', '-c', shell],
  { env, stdio: 'ignore' },
);
await sleep(5000);
spawnSync('import', ['-window', 'root', '-trim', `${folder}/command-check.png`], { env });
terminal.kill();
screen.kill();
