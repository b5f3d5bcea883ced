// Checks the formatting of the files that are other than in the branch that this one follows, or in the last commit where it
// follows none; with THOROUGH=1, as in CI, of all files.
import { execFileSync, spawnSync } from 'node:child_process';

/** What git prints, line by line; nothing if it fails. */
function git(...args) {
  try {
    return execFileSync('git', args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] })
      .split('\n')
      .filter(Boolean);
  } catch {
    return undefined;
  }
}

function changedFiles() {
  const [base] = git('merge-base', 'HEAD', '@{upstream}') ?? ['HEAD'];
  const changed = git('diff', '--name-only', '--diff-filter=d', base);
  // A copy of the files that is no clone is checked whole.
  return changed ? [...changed, ...git('ls-files', '--others', '--exclude-standard')] : ['.'];
}

const files = process.env['THOROUGH'] === undefined ? changedFiles() : ['.'];
if (files.length > 0) {
  const args = ['prettier', '--check', '--cache', '--log-level', 'warn', '--ignore-unknown', ...files];
  process.exitCode = spawnSync('npx', args, { stdio: 'inherit', shell: process.platform === 'win32' }).status ?? 1;
}
