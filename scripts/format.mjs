// Checks the formatting of the files that are other than in the branch that this one follows, or in the last commit where it
// follows none; with THOROUGH=1, as in CI, of all files.
import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { check, getFileInfo, resolveConfig } from 'prettier';

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

function filesToCheck() {
  const untracked = git('ls-files', '--others', '--exclude-standard');
  if (process.env['THOROUGH'] !== undefined) return [...git('ls-files'), ...untracked];
  const [base] = git('merge-base', 'HEAD', '@{upstream}') ?? ['HEAD'];
  return [...git('diff', '--name-only', base), ...untracked];
}

const wrong = [];
for (const file of filesToCheck().filter((each) => existsSync(each))) {
  const { ignored, inferredParser } = await getFileInfo(file, { ignorePath: '.prettierignore' });
  if (ignored || inferredParser === null) continue;
  const options = await resolveConfig(file);
  if (!(await check(readFileSync(file, 'utf8'), { ...options, filepath: file }))) wrong.push(file);
}
if (wrong.length > 0) {
  console.error(`Not formatted: ${wrong.join(', ')}. Run npx prettier --write on them.`);
  process.exitCode = 1;
}
