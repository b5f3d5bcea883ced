// Builds what runs in the documentation: a page for each recipe, in each way in which it is written, cut from the recipe itself.

import { readdirSync, readFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import vue from '@vitejs/plugin-vue';
import { defineConfig, type Plugin } from 'vite';
import { blocksIn, codeOf, htmlOf, VARIANTS, variantsOf, type Variant } from './blocks.ts';

const here = import.meta.dirname;
const recipes = join(here, '../recipes');
const textOf = (name: string): string => readFileSync(join(recipes, `${name}.md`), 'utf8');

const NAMES = readdirSync(recipes)
  .map((file) => basename(file, '.md'))
  .filter((name) => name !== 'index');
const PAGES = NAMES.flatMap((name) => variantsOf(textOf(name)).map((variant) => ({ name, variant, page: `${name}.${variant}.html` })));
const LABELS: Readonly<Record<Variant, string>> = { plain: 'Plain page', react: 'React', vue: 'Vue' };

/** The styles of a recipe: a page has none of its own under the policy of the site. */
const STYLE = /<style>([^]*?)<\/style>\n?/;

function pageOf(name: string, variant: Variant): string {
  const text = textOf(name);
  const links = variantsOf(text).map((each) =>
    each === variant ? `<strong>${LABELS[each]}</strong>` : `<a href="${name}.${each}.html">${LABELS[each]}</a>`,
  );
  return readFileSync(join(here, 'frame.html'), 'utf8')
    .replace('<!-- variants -->', links.length > 1 ? `<nav aria-label="Written for">${links.join(' ')}</nav>` : '')
    .replace('<!-- recipe -->', () => htmlOf(text, variant).replace(STYLE, ''))
    .replaceAll('<!-- title -->', /^# (.*)$/m.exec(text)![1]!)
    .replace('%recipe%', `/${name}.${variant}.ts`);
}

/** The module that a page loads: its styles, and what shows it. */
function entryOf(name: string, variant: Variant): string {
  const isStyled = variant === 'plain' && STYLE.test(htmlOf(textOf(name), variant));
  const style = isStyled ? `import '/${name}.css';` : '';
  if (variant === 'plain') return `${style} import '/${name}.code.ts';`;
  if (variant === 'react')
    return `import { createElement } from 'react'; import { createRoot } from 'react-dom/client'; import { App } from '/${name}.code.tsx';
      createRoot(document.querySelector('#root')).render(createElement(App));`;
  return `import { createApp } from 'vue'; import App from '/${name}.code.vue'; createApp(App).mount('#root');`;
}

/** What stands in the recipe, under the names of files in this folder. */
function contentOf(file: string): string | undefined {
  const [, name = '', kind = '', extension] = /^([\w-]+)\.(\w+)(?:\.(\w+))?$/.exec(file) ?? [];
  if (!NAMES.includes(name)) return undefined;
  if (kind === 'css') return STYLE.exec(htmlOf(textOf(name), 'plain'))![1];
  if (kind === 'code') return codeOf(textOf(name), extension === 'vue' ? 'vue' : extension === 'tsx' ? 'react' : 'plain');
  if (!Object.hasOwn(VARIANTS, kind)) return undefined;
  return extension === 'html' ? pageOf(name, kind as Variant) : entryOf(name, kind as Variant);
}

const fromRecipes: Plugin = {
  name: 'recipes',
  enforce: 'pre',
  resolveId(id) {
    const file = basename(id);
    return !id.includes('?') && contentOf(file) !== undefined ? join(here, file) : undefined;
  },
  load(id) {
    return id.startsWith(here) && !id.includes('?') ? contentOf(basename(id)) : undefined;
  },
};

/** The part of a page that the recipe on dialogs loads. */
const [insurance] = blocksIn(textOf('dialog'), /^```html part/);

export default defineConfig({
  root: here,
  base: './',
  define: { INSURANCE: JSON.stringify(insurance) },
  plugins: [fromRecipes, vue()],
  build: {
    outDir: join(here, '../dist/live'),
    emptyOutDir: true,
    // (The policy of the site takes no inline modules.)
    modulePreload: { polyfill: false },
    rolldownOptions: { input: PAGES.map(({ page }) => join(here, page)) },
  },
});
