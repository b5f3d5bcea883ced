// Sees to it that there is a browser for the tests: finds one, or installs Debian's where it may. `node scripts/browser.mjs firefox` for
// the second engine.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

const BROWSERS = {
  chromium: {
    package: 'chromium',
    places: [process.env['CHROMIUM'], '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'],
  },
  firefox: { package: 'firefox-esr', places: [process.env['FIREFOX'], '/usr/bin/firefox-esr'] },
};
const name = process.argv[2] ?? 'chromium';
const { package: wanted, places } = BROWSERS[name];
const isThere = () => places.some((place) => place && existsSync(place));

if (!isThere()) {
  const mayInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  if (mayInstall) {
    console.log(`Installing ${wanted} for the browser tests ...`);
    const apt = (...args) =>
      spawnSync('apt-get', args, { stdio: ['ignore', 'ignore', 'inherit'], env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
    apt('update', '-qq');
    apt('install', '-y', '-qq', '--no-install-recommends', wanted);
  }
  if (!isThere()) {
    const how = `install it (Debian: apt-get install ${wanted}), or set ${name.toUpperCase()} to the path of one.`;
    // The second engine is one more: where it cannot be had, the tests say so, and go on without it.
    if (name === 'firefox') console.log(`NOT RUN in Firefox: it is not here, and could not be installed. To run its tests, ${how}`);
    else {
      console.error(`The browser tests need ${wanted}: ${how}`);
      process.exit(1);
    }
  }
}
