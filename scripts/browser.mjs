// Sees to it that there is a browser for the tests: finds one, or installs Debian's where it may.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

const places = [process.env['CHROMIUM'], '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];

if (!places.some((place) => place && existsSync(place))) {
  const mayInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  if (mayInstall) {
    console.log('Installing chromium for the browser tests ...');
    const apt = (...args) =>
      spawnSync('apt-get', args, { stdio: ['ignore', 'ignore', 'inherit'], env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
    apt('update', '-qq');
    apt('install', '-y', '-qq', '--no-install-recommends', 'chromium');
  }
  if (!existsSync('/usr/bin/chromium')) {
    console.error('The browser tests need Chromium: install it (Debian: apt-get install chromium), or set CHROMIUM to the path of one.');
    process.exit(1);
  }
}
