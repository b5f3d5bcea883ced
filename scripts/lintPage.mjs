// Writes the list of ids into docs/lint.md: of each, the faulty schema of the gallery, what lint says of it, why it matters and what to do.
// With --check it only compares.

import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import ts from 'typescript';
import { lint, LINT_IDS } from 'upper-gate/lint';

const root = new URL('..', import.meta.url);
const page = new URL('docs/lint.md', root);
const source = new URL('docs/lint/gallery.ts', root);
const MARK = '<!-- From here on, scripts/lintPage.mjs writes this page. -->\n';

const code = readFileSync(source, 'utf8');
// (Within the workspace, so that the packages are found.)
const folder = new URL('node_modules/.lint-page/', root);
mkdirSync(folder, { recursive: true });
const module = new URL('gallery.mjs', folder);
const compilerOptions = { module: ts.ModuleKind.ESNext, target: ts.ScriptTarget.ES2022 };
writeFileSync(module, ts.transpileModule(code, { compilerOptions }).outputText);
const gallery = await import(module.href);
const exportOf = (id) => id.replace(/-(\w)/g, (_, letter) => letter.toUpperCase());
/** Where the families of ids begin. */
const FAMILIES = {
  'no-value': 'Contradictions',
  'other-number': 'Words',
  'hanging-pattern': 'Cost and safety',
  circle: 'Conditions',
  'unnamed-async': 'Servers and other notations',
  'needless-acceptance': 'What was accepted',
};

let text = '';
for (const [id, { severity, why, fix }] of Object.entries(LINT_IDS)) {
  const name = exportOf(id);
  const [declaration] = new RegExp(`^(?:(?:const|interface) .*\\n(?:(?! *\\n).*\\n)?)?export const ${name} =[^]*?;\\n(?=\\n|$)`, 'm').exec(
    code,
  );
  const [{ what, samples }] = await lint(gallery[name], gallery.options[name]);
  const proof = samples === undefined ? '' : ` (not proven: ${samples} sample${samples === 1 ? '' : 's'})`;
  if (FAMILIES[id]) text += `## ${FAMILIES[id]}\n\n`;
  text += `### ${id}\n\n\`\`\`ts faulty\n${declaration.replace(/^export /gm, '')}\`\`\`\n\n> ${severity}: ${what.replace(/[<>*_|\\[\]]/g, '\\$&')}${proof}\n\n${why} ${fix.replace(/(`[^`]*`)|([a-zA-Z]+\(\{?.*\))/g, (_, quoted, call) => quoted ?? `\`${call}\``)}\n\n`;
}
const before = readFileSync(page, 'utf8');
const written = before.slice(0, before.indexOf(MARK) + MARK.length) + '\n' + text.trimEnd() + '\n';
if (!process.argv.includes('--check')) writeFileSync(page, written);
else if (before !== written) {
  console.error('docs/lint.md is not up to date: run node scripts/lintPage.mjs');
  process.exitCode = 1;
}
