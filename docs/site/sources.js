// The sources of examples that pages lead to, as a part of the site: each as plain text, and a folder as a list of what is in it.

import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import escapeHtml from 'escape-html';

const repository = join(dirname(fileURLToPath(import.meta.url)), '../..');
const wanted = new Set();

const isFolder = (path) => statSync(join(repository, path)).isDirectory();
const placeOf = (path) => (isFolder(path) ? `sources/${path}/index.html` : `sources/${path}.txt`);

/** Where the copy of a file or folder of the repository will be. @throws Error for what is not there */
export function copyOf(path) {
  wanted.add(path);
  return placeOf(path);
}

function write(output, path) {
  const place = join(output, placeOf(path));
  mkdirSync(dirname(place), { recursive: true });
  if (!isFolder(path)) return writeFileSync(place, readFileSync(join(repository, path)));
  const names = readdirSync(join(repository, path)).sort();
  for (const name of names) write(output, `${path}/${name}`);
  const items = names.map(
    (name) =>
      `<li><a href="${encodeURIComponent(name)}${isFolder(`${path}/${name}`) ? '/index.html' : '.txt'}">${escapeHtml(name)}</a></li>`,
  );
  const title = escapeHtml(path);
  return writeFileSync(
    place,
    `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${title}</title></head><body><main><h1>${title}</h1><ul>${items.join('')}</ul></main></body></html>`,
  );
}

/** Copies what pages lead to. */
export function copySources(output) {
  for (const path of wanted) write(output, path);
}
