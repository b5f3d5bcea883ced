// A real browser for the tests, and the library in it: bundled from its sources, never from an older build.

import { existsSync } from 'node:fs';
import { afterAll, beforeAll } from '@jest/globals';
import { buildSync } from 'esbuild';
import { chromium, type Browser, type Page } from 'playwright-core';
import { launchFirefox } from '../../../../scripts/engines/firefox.ts';

/** Features of Chromium to turn off: those that Playwright turns off (only the last list counts), and the address bar's pop-ups, which take half the time of opening a page. */
const OFF = [
  'AvoidUnnecessaryBeforeUnloadCheckSync',
  'DestroyProfileOnBrowserClose',
  'HttpsUpgrades',
  'HttpsFirstBalancedModeAutoEnable',
  'LensOverlay',
  'MediaRouter',
  'PaintHolding',
  'ThirdPartyStoragePartitioning',
  'AvoidCorsURLLoaderRestartOnRedirect',
  'OptimizationHints',
  'NetworkTimeServiceQuerying',
  'AimEnabled',
  'PreconnectToSearch',
  'WebUIOmniboxPopup',
  'WebUIOmniboxAimPopup',
];
const quiet = [
  '--no-sandbox',
  '--disable-gpu',
  // Fewer processes to start, for each page.
  '--in-process-gpu',
  '--renderer-process-limit=1',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  `--disable-features=${OFF.join()}`,
];

/** Which browser the tests run in: Chromium, or Firefox for the tables that are the same for every engine. */
export const ENGINE = process.env['ENGINE'] ?? 'chromium';

export function launchBrowser(): Promise<Browser> {
  if (ENGINE === 'firefox') return launchFirefox();
  const path = [process.env['CHROMIUM'], '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'].find((each) => each && existsSync(each));
  if (path === undefined) throw new Error('No Chromium: install it (Debian: apt-get install chromium), or set CHROMIUM to the path of one.');
  return chromium.launch({ executablePath: path, args: quiet });
}

/** A browser for the tests of a file. */
export function useBrowser(): () => Browser {
  let browser: Browser;
  beforeAll(async () => {
    browser = await launchBrowser();
  });
  afterAll(() => browser.close());
  return () => browser;
}

/** The import condition under which the library's entry points are its sources. */
export const SOURCE = 'upper-gate-source';

/** The library in one script, as `UpperGate`. */
export function bundleLibrary(production = false): string {
  const contents =
    "export * from 'upper-gate'; export * from 'upper-gate/dom'; export * from 'upper-gate/elements'; export * from 'upper-gate/html'; export * from 'upper-gate/binding';";
  const { outputFiles } = buildSync({
    stdin: { contents, resolveDir: __dirname },
    bundle: true,
    write: false,
    format: 'iife',
    globalName: 'UpperGate',
    conditions: production ? [SOURCE, 'production'] : [SOURCE],
    minify: production,
  });
  return outputFiles[0]!.text;
}

let bundled: string | undefined;
/** Loads it into a page. */
export async function loadLibrary(page: Page): Promise<void> {
  await page.addScriptTag({ content: (bundled ??= bundleLibrary()) });
}
