// The index of the search: made here, read by assets/search.js in the browser, without a network beyond the pages' own server.

import { writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { parseHTML } from 'linkedom';
import MiniSearch from 'minisearch';
import { SEARCH_OPTIONS } from './assets/searchOptions.js';
import { WORDS } from './words.js';

const HEADINGS = new Set(['H1', 'H2', 'H3']);

/** The sections of a page: each begins with a heading. */
function sectionsOf(url, html) {
  const main = parseHTML(html).document.querySelector('article');
  const isReference = url.startsWith('reference/');
  const sections = [];
  for (const element of main.children) {
    const first = sections[0];
    // Of the reference one entry a page: its parts have the same headings everywhere.
    if (HEADINGS.has(element.tagName) && !(isReference && first))
      sections.push({ id: `${url}${first ? `#${element.id}` : ''}`, title: element.textContent, page: first?.title ?? '', text: '' });
    else if (sections.length) sections.at(-1).text += `${element.textContent} `;
  }
  // An entry of the reference is called by what one imports it from.
  const [, module] = /^reference\/(.*)\/[\w-]+\/\w+\.html$/.exec(url) ?? [];
  return sections.map((section, at) => ({
    ...section,
    page: module ?? section.page,
    words: at === 0 ? (WORDS[url.replace(/\.html$/, '')] ?? '') : (WORDS[section.id.replace('.html', '')] ?? ''),
    isReference,
    text: section.text.replaceAll(/\s+/g, ' ').slice(0, isReference ? 400 : 4000),
  }));
}

/**
 * Writes the index.
 *
 * @param results the pages, as Eleventy gives them after a build
 * @param output the folder of the built pages
 */
export function indexPages(results, output) {
  const index = new MiniSearch(SEARCH_OPTIONS);
  for (const { outputPath, content } of results) index.addAll(sectionsOf(relative(output, outputPath).replaceAll('\\', '/'), content));
  writeFileSync(join(output, 'assets/search.json'), JSON.stringify(index));
}
