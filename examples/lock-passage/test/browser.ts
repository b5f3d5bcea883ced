// What the browser tests stand on: the real server, and a real browser.

import { drawn } from '../../../packages/upper-gate/__tests__/browser/heard.ts';
import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { launchBrowser } from '../../../packages/upper-gate/__tests__/browser/launch.ts';
import { THOROUGH } from '../../../packages/upper-gate/__tests__/runs.ts';

const server = join(__dirname, '../dist-server/server/main.js');

/** The pages of the booking, each with its own vessel, since a vessel has one booking. */
export const PAGES = { plain: ['/plain.html', 'KF-3307'], React: ['/react/', 'HE-2210'], Vue: ['/vue/', 'VO-6033'] } as const;

/**
 * Tests what several pages owe, for one of them: each test on one page, in turn; in CI each on all. (What a binding does is tested
 * with every binding by the library's own tests.)
 *
 * @param index which page this is, of `count`
 */
export function testInTurn(index: number, count: number): (name: string, run: () => Promise<void>, timeout?: number) => void {
  let made = 0;
  return (...args) => {
    if (THOROUGH || made++ % count === index) test(...args);
  };
}

/** Starts the demo's server on a free port, with its own database in a folder. */
async function startServer(folder: string): Promise<{ url: string; process: ChildProcess }> {
  // (Made by globalSetup.)
  cpSync(process.env['EMPTY_DATABASE']!, folder, { recursive: true });
  const child = spawn(process.execPath, [server], { env: { ...process.env, PORT: '0', LOCK_PASSAGE_DATA: folder }, stdio: ['ignore', 'pipe', 'inherit'] });
  const url = await new Promise<string>((resolve, reject) => {
    child.stdout.on('data', (text: Buffer) => {
      const found = /http:\S+/.exec(text.toString());
      if (found) resolve(found[0]);
    });
    child.on('exit', (code) => reject(new Error(`The server ended with code ${code}.`)));
  });
  return { url, process: child };
}

/** The demo, as it is served, and a browser. */
export interface Demo {
  readonly url: string;
  readonly browser: Browser;
}

/** A server and a browser for the tests of one file; both end with them, whichever failed to start. */
export function useDemo(): Demo {
  const demo = { url: '', browser: undefined as unknown as Browser };
  let server: ChildProcess | undefined;
  const folder = mkdtempSync(join(tmpdir(), 'lock-passage-'));
  beforeAll(async () => {
    ({ url: demo.url, process: server } = await startServer(folder));
    demo.browser = await launchBrowser();
    // The database takes its time to start on a machine that is busy.
  }, 90_000);
  afterAll(async () => {
    try {
      await (demo.browser as Browser | undefined)?.close();
    } finally {
      // (At once: nothing of it is kept.)
      server?.kill('SIGKILL');
      rmSync(folder, { recursive: true, force: true, maxRetries: 3 });
    }
  });
  return demo;
}

/** Collects what a page throws, and every report of its content security policy. */
export function watch(page: Page, errors: string[]): void {
  page.on('pageerror', (error) => errors.push(String(error)));
  page.on('console', (message) => /Content Security Policy|Trusted/i.test(message.text()) && errors.push(message.text()));
}

/** Fills in a booking that is right, but for what is given otherwise. The same names on every page. */
export async function fillIn(page: Page, otherwise: Readonly<Record<string, string>> = {}): Promise<void> {
  const values = {
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
    ...otherwise,
  };
  // (Or in the shadow root of an element of that name.)
  for (const [name, value] of Object.entries(values)) await page.fill(`:is(input, textarea)[name="${name}"], [name="${name}"] input`, value);
  await page.selectOption('[name=kind]', 'narrowboat');
  await page.check('[name=slot][value="13:00"]');
  await page.check('[name="cargo.load"][value=none]');
  await page.setInputFiles('[name=insurance]', { name: 'otter.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF-1.7') });
  for (const kit of ['lifejackets', 'lights']) await page.check(`[name=kit][value=${kit}]`);
  await page.check('[name=terms]');
}

const axe = readFileSync(createRequire(__filename).resolve('axe-core/axe.min.js'), 'utf8');
/** What axe-core has to say of a page. */
export async function violations(page: Page): Promise<string[]> {
  await page.evaluate(axe);
  const { violations: found } = await page.evaluate<{ violations: { id: string; nodes: { html: string }[] }[] }>('axe.run()');
  return found.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html}`));
}

/** The messages shown for a field. */
export const messagesOf = (page: Page, field: string): Promise<string[]> => page.locator(`[data-gate-messages="${field}"] [data-gate-severity]`).allTextContents();

/** What has the focus, once the page is drawn and the focus has followed. */
export const focused = async (page: Page): Promise<string> => {
  await drawn(page);
  return page.evaluate(() => document.activeElement?.getAttribute('name') ?? document.activeElement?.id ?? '');
};
