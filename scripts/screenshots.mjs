// Takes the pictures of docs/screenshots: `npm run screenshots` (needs chromium; for the terminal also xvfb, xterm, imagemagick).
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
  'window.from': '12:15',
  'window.to': '12:45',
  'crew.0.name': 'Ada Fen',
  'crew.0.age': '41',
  email: 'otter@example.org',
  emailAgain: 'otter@example.org',
};
async function fillIn(page) {
  for (const [name, value] of Object.entries(booking)) await page.fill(`[name="${name}"]`, value);
  await page.selectOption('[name=kind]', 'narrowboat');
  await page.setInputFiles('[name=insurance]', { name: 'otter.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF') });
  for (const [name, value] of [
    ['slot', '13:00'],
    ['cargo.load', 'none'],
    ['kit', 'lifejackets'],
    ['kit', 'lights'],
  ])
    await page.check(`[name="${name}"][value="${value}"]`);
  await page.check('[name=terms]');
}
/** A few things wrong, and the register with something to say. */
async function slip(page) {
  await page.fill('[name=registration]', 'MA-4001');
  await page.fill('[name=beam]', '7');
  await page.fill('[name=vessel]', 'O');
  await page.check('[name="cargo.load"][value=dangerous]');
  await page.click('[data-gate-add=crew]');
  await page.locator('[name=vessel]').press('Enter');
  await page.locator('[data-gate-messages=registration] > *').waitFor();
  await page.locator('[data-gate-state=pending]').first().waitFor({ state: 'detached' });
}
/** The inspector, once something has happened. (Its shadow root is closed: see below.) */
async function lookInto(page) {
  await page.getByRole('button', { name: 'Inspect the form' }).click();
  await page.locator('upper-gate-inspector .row').first().waitFor();
  await page.fill('[name=registration]', 'MA-4001');
  await page.fill('[name=vessel]', 'O');
  await page.fill('[name=lengthM]', '17');
  await page.waitForTimeout(1200);
  await page.fill('[name=beam]', '7');
  await page.press('[name=beam]', 'Tab');
  await page
    .locator('upper-gate-inspector')
    .getByRole('button', { name: /^Registration/ })
    .click();
  await page.locator('[name=registration]').evaluate((input) => input.scrollIntoView({ block: 'start' }));
  await page.evaluate(() => scrollBy(0, -120));
  await page.waitForTimeout(1500);
}
const top = (page) => page.evaluate(() => scrollTo(0, 0));

/** Each picture: the page, how it is looked at, and what is done first. */
const pictures = {
  'start-page': ['/', {}, async () => undefined],
  'docs-playground': [
    '/docs/try/',
    { colorScheme: 'dark' },
    async (page) => {
      const frame = page.frameLocator('#run');
      await frame.getByLabel('Beam (m)').fill('7');
      await frame.getByRole('button').last().click();
      await page.getByText('rangeOverflow').waitFor();
    },
  ],
  'berth-limits': [
    '/berth.html',
    {},
    async (page) => {
      await page.selectOption('[name=harbour]', 'Saltby');
      await page.selectOption('[name=berth]', 'Quay B');
      await page.selectOption('[name=kind]', 'narrowboat');
      await page.fill('[name=lengthM]', '24');
      await page.fill('[name=draught]', '1.6');
      await page.fill('[name=arrival]', '09:00');
      await page.check('[value=port]');
      await page.selectOption('[name=harbour]', 'Thorle');
      await page.locator('[name=lengthM]').press('Enter');
      await page.locator('[name=kind]').evaluate((select) => select.scrollIntoView({ block: 'start' }));
    },
  ],
  'booking-changed-twice': [
    '/booked.html?reference=FF-10000',
    {},
    async (page) => {
      await page.locator('[name=remarks]').waitFor();
      // Somebody else is quicker.
      await page.evaluate(async () => {
        const url = '/api/bookings/FF-10000';
        const { headers } = await fetch(url);
        const body = JSON.stringify({ beam: 3.4, remarks: 'Two dogs on board' });
        await fetch(url, {
          method: 'PATCH',
          headers: { 'content-type': 'application/merge-patch+json', 'if-match': headers.get('etag') },
          body,
        });
      });
      await page.fill('[name=remarks]', 'A dog and a cat on board');
      await page.locator('[data-whose=mine]').waitFor();
      await top(page);
    },
  ],
  'page-at-rest': ['/plain.html', {}, async () => undefined],
  'page-with-errors': [
    '/plain.html',
    {},
    async (page) => slip(page).then(() => page.locator('[name=vessel]').evaluate((input) => input.scrollIntoView({ block: 'center' }))),
  ],
  inspector: ['/plain.html', {}, lookInto],
  'inspector-dark': ['/react/', { colorScheme: 'dark' }, lookInto],
  'page-arabic-320': [
    '/plain.html',
    { viewport: { width: 320, height: 800 } },
    async (page) => {
      await page.selectOption('#language', 'ar');
      await slip(page);
      await page.locator('[name=vessel]').evaluate((input) => input.scrollIntoView({ block: 'center' }));
    },
  ],
  'page-forced-colours': [
    '/plain.html',
    { forcedColors: 'active', colorScheme: 'dark' },
    async (page) => slip(page).then(() => page.locator('[name=vessel]').evaluate((input) => input.scrollIntoView({ block: 'center' }))),
  ],
  'without-script': [
    '/plain.html',
    { javaScriptEnabled: false },
    async (page) => {
      await fillIn(page);
      await page.fill('[name=registration]', 'ZZ-0000');
      await page.fill('[name=emailAgain]', 'other@example.org');
      await page.click('#send');
      await page.locator('.summary li').first().waitFor();
    },
  ],
  wizard: [
    '/steps/',
    {},
    async (page) =>
      page
        .getByText('Next')
        .click()
        .then(() => top(page)),
  ],
  'component-kit': [
    '/kit/',
    {},
    async (page) => {
      await page.getByText('Add a guest').click();
      await page.getByText('Book the mooring').click();
      await sleep(300);
      await top(page);
    },
  ],
  'page-of-openapi': [
    '/interface.html',
    {},
    async (page) => {
      await page.click('#example');
      await page.fill('[name="vessel.engine.power"]', '90');
      await page.click('form [type=submit]');
      await top(page);
    },
  ],
  manifest: [
    '/manifest.html',
    {},
    async (page) => {
      const seal = page.locator('.window .crate').nth(2).getByLabel('Seal');
      await seal.fill('s10001');
      await seal.press('End');
      await seal.press('Backspace');
      await seal.press('1');
    },
  ],
};
const wanted = process.argv.slice(2);
for (const [name, [path, how, act]] of Object.entries(pictures)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue;
  const page = await browser.newPage({ viewport: size, locale: 'en-GB', ...how });
  await page.addInitScript(() => {
    // What is closed to the tests of a page (the inspector) is open here.
    const attach = Element.prototype.attachShadow;
    Element.prototype.attachShadow = function (init) {
      return attach.call(this, { ...init, mode: 'open' });
    };
  });
  await page.goto(url + path);
  await page.locator('main').waitFor();
  await act(page);
  await sleep(300);
  await page.screenshot({ path: `${folder}/${name}.png` });
  await page.close();
}
await browser.close();
server.kill();

// The command, in a terminal window.
const commands = {
  'command-check': 'upper-gate check data/schema.ts data/bookings.json --source json',
  'command-convert': 'upper-gate convert data/schema.ts --to types | head -n 30',
  'command-lint':
    'cd ../../docs/lint; upper-gate lint gallery.ts#noValue gallery.ts#neverApplies gallery.ts#otherNumber gallery.ts#hangingPattern',
  'command-rehearse': 'upper-gate rehearse data/schema.ts rehearsals/wrong-order.rehearsal.yaml | head -n 28',
};
for (const [name, command] of Object.entries(commands)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue;
  const display = ':97';
  const screen = spawn('Xvfb', [display, '-screen', '0', '1280x800x24'], { stdio: 'ignore' });
  await sleep(1000);
  const shell = `cd examples/lock-passage; echo '$ ${command}'; ${command}; echo; sleep 20`;
  // (Also where it is cut off.)
  const env = { ...process.env, FORCE_COLOR: '1', DISPLAY: display, PATH: `${process.cwd()}/node_modules/.bin:${process.env['PATH']}` };
  const terminal = spawn(
    'xterm',
    ['-geometry', '126x34', '-fa', 'DejaVu Sans Mono', '-fs', '11', '-bg', '#12181a', '-fg', '#e6eeee', '-e', 'bash', '-c', shell],
    { env, stdio: 'ignore' },
  );
  await sleep(5000);
  spawnSync('import', ['-window', 'root', '-trim', `${folder}/${name}.png`], { env });
  terminal.kill();
  screen.kill();
  await once(screen, 'exit');
}
