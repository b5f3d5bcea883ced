// Builds the pages of the documentation: the Markdown of docs/, and the reference that TypeDoc has written to docs/reference.
// All links are relative, so that the pages work under any path. Nothing is inline: the pages obey a strict content security policy.

import { readFileSync } from 'node:fs';
import { dirname, join, posix } from 'node:path';
import { fileURLToPath } from 'node:url';
import anchors from 'markdown-it-anchor';
import Prism from 'prismjs';
import loadLanguages from 'prismjs/components/index.js';
import { indexPages } from './searchIndex.js';
import { NAVIGATION } from './navigation.js';
import { copyOf, copySources } from './sources.js';

const here = dirname(fileURLToPath(import.meta.url));
const modules = join(here, '../../node_modules');

loadLanguages(['typescript', 'jsx', 'tsx', 'bash', 'json', 'markup']);
const LANGUAGES = {
  svelte: 'markup',
  solid: 'tsx',
  angular: 'typescript',
  ts: 'typescript',
  tsx: 'tsx',
  js: 'javascript',
  sh: 'bash',
  json: 'json',
  html: 'markup',
  vue: 'markup',
};

/** The page of a Markdown file; undefined for what is not part of the site. */
function pageOf(href) {
  const [, path, hash = ''] = /^([^#]*)(#.*)?$/.exec(href);
  if (path === '') return hash;
  return path.endsWith('.md') ? path.replace(/\.md$/, '.html') + hash : undefined;
}

/** The anchor of a heading, as hosts of Markdown make it: so that links work there too. */
const anchorOf = (heading) =>
  heading
    .toLowerCase()
    .trim()
    .replaceAll(/[^\p{L}\p{N}\s_-]/gu, '')
    .replaceAll(/\s/g, '-');

/** A plugin of markdown-it: links lead to pages; those to sources of the repository, to a copy of these. */
function links(md) {
  md.core.ruler.push('links', ({ tokens, env }) => {
    const folder = posix.dirname(env.page.filePathStem);
    const up = '../'.repeat(folder.split('/').filter(Boolean).length) || './';
    for (const token of tokens.flatMap(({ children }) => children ?? [])) {
      if (token.type !== 'link_open') continue;
      const href = token.attrGet('href');
      if (/^\w+:/.test(href)) continue;
      const source = posix.join('docs', folder, href);
      const page = source.startsWith('docs/') || href.startsWith('#') ? pageOf(href) : undefined;
      token.attrSet('href', page ?? `${up}${copyOf(source)}`);
    }
  });
}

/** A plugin of markdown-it: a wide table or block of code scrolls by itself, by keyboard too. */
function scrolling(md) {
  md.renderer.rules.table_open = () => '<div class="wide" tabindex="0" role="group" aria-label="Table"><table>\n';
  md.renderer.rules.table_close = () => '</table></div>\n';
  md.renderer.rules.fence = (tokens, index) => {
    const { content, info } = tokens[index];
    const language = LANGUAGES[info.split(' ')[0]];
    const code = language ? Prism.highlight(content, Prism.languages[language], language) : md.utils.escapeHtml(content);
    return `<pre tabindex="0"><code>${code}</code></pre>\n`;
  };
}

/** The ways in which a recipe is written that runs on a page, the first of which is shown. */
const RUNNING = [
  ['plain', /^```ts page/m],
  ['react', /^```tsx page/m],
  ['vue', /^```vue/m],
];

/** A plugin of markdown-it: a recipe has a place where it runs, before its first block of code. */
function live(md) {
  md.core.ruler.push('live', (state) => {
    const { src, tokens, env } = state;
    const [, name] = /^\/recipes\/([\w-]+)$/.exec(env.page.filePathStem) ?? [];
    const variant = name && RUNNING.find(([, fence]) => fence.test(src))?.[0];
    if (!variant) return;
    const title = md.utils.escapeHtml(/^# (.*)$/m.exec(src)[1]);
    const place = new state.Token('html_block', '', 0);
    place.content = `<div class="live" data-live="${name}.${variant}" data-title="${title}"></div>\n`;
    tokens.splice(
      tokens.findIndex(({ type }) => type === 'fence'),
      0,
      place,
    );
  });
}

/** @param eleventyConfig the configuration of Eleventy */
export default function (eleventyConfig) {
  eleventyConfig.setUseGitIgnore(false);
  for (const ignored of ['site', 'live', 'try', 'test', 'dist', 'screenshots']) eleventyConfig.ignores.add(`docs/${ignored}`);
  eleventyConfig.amendLibrary('md', (md) => {
    md.set({ html: true, linkify: false });
    md.use(links).use(live).use(scrolling).use(anchors, { slugify: anchorOf });
  });
  eleventyConfig.addGlobalData('layout', 'page.njk');
  eleventyConfig.addGlobalData('navigation', NAVIGATION);
  eleventyConfig.addGlobalData('eleventyComputed', {
    permalink: ({ page }) => `${page.filePathStem}.html`,
    title: ({ page }) => /^# (.*)$/m.exec(readFileSync(page.inputPath, 'utf8'))?.[1].replaceAll(/[`\\]/g, '') ?? '',
    root: ({ page }) => './' + '../'.repeat(page.filePathStem.split('/').length - 2),
    // Of a page of the reference, the entry that exports it: reference/upper-gate/dom/functions/bindForm.
    module: ({ page }) => /^\/reference\/(.*)\/[\w-]+\/(?!index$)\w+$/.exec(page.filePathStem)?.[1] ?? '',
    stem: ({ page }) => page.filePathStem.slice(1),
  });
  eleventyConfig.addPassthroughCopy({
    'docs/site/assets': 'assets',
    'docs/screenshots': 'screenshots',
    'docs/charts': 'charts',
    [join(modules, 'minisearch/dist/es/index.js')]: 'assets/minisearch.js',
  });
  eleventyConfig.on('eleventy.after', ({ results, directories }) => {
    indexPages(results, directories.output);
    copySources(directories.output);
  });
  return {
    dir: { input: 'docs', output: 'docs/dist', includes: 'site/includes', data: 'site/data' },
    // Braces of the examples are no templates.
    markdownTemplateEngine: false,
    htmlTemplateEngine: 'njk',
    templateFormats: ['md'],
  };
}
