// P18: what the hook for traces costs a form that nobody follows: an edit, against the same build with the hook compiled out.
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { compare, report } from './rounds.mjs';

const folder = mkdtempSync(join(tmpdir(), 'bench-'));
const HOOK = /(?<![\w.#])(?:[\w#]+\.)*(?:tracer|answerAsync)\?\./g;

/** The library in one file. @param isOut whether without the hook */
async function library(isOut) {
  const without = {
    name: 'without-the-hook',
    setup: ({ onLoad }) =>
      onLoad({ filter: /upper-gate\/dist\/.*\.js$/ }, ({ path }) => ({
        contents: readFileSync(path, 'utf8')
          .replaceAll(HOOK, 'undefined?.')
          .replace('const { tracer } = this.kit;', 'const tracer = undefined;'),
      })),
  };
  const { outputFiles } = await build({
    stdin: { contents: "export * from 'upper-gate';", resolveDir: import.meta.dirname },
    bundle: true,
    format: 'esm',
    conditions: ['production'],
    minifySyntax: true,
    target: 'es2022',
    write: false,
    plugins: isOut ? [without] : [],
  });
  const { text } = outputFiles[0];
  if (text.search(HOOK) >= 0 === isOut)
    throw new Error(isOut ? 'The hook is still in it: correct the pattern.' : 'The hook has another name: correct the pattern.');
  const file = join(folder, `${isOut ? 'without' : 'with'}.mjs`);
  writeFileSync(file, text);
  return import(pathToFileURL(file).href);
}

const words = ['Otter', 'Heron'];
const editIn = ({ createGate, group, text, required, length, fieldRules, check }) => {
  const plain = createGate(group({ a: text('A', required(), length({ min: 2, max: 20 })) })).field('a');
  const read = createGate(
    group({ a: text('A', required(), length({ min: 2, max: 20 })), b: text('B') }).with(fieldRules({ b: check((b, all) => b !== all.a) })),
    { initial: { b: 'Teal' } },
  ).field('a');
  return { plain: (i) => plain.set(words[i % 2]), read: (i) => read.set(words[i % 2]) };
};
const [hooked, bare] = [editIn(await library(false)), editIn(await library(true))];
const long = { rounds: 101, milliseconds: 20 };
report('P18', 'an edit that nobody follows, against a build without the hook', compare(hooked.plain, bare.plain, long), 1.03);
report('P18', 'the same, where a cross-field rule reads it', compare(hooked.read, bare.read, long), 1.03);
