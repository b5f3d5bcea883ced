// The code of a page of Markdown: what the tests compile and run, and what stands beside a recipe, live, is cut from the page itself.

/** The blocks of code of a text that begin with a fence: `/^```ts/`. */
export const blocksIn = (markdown: string, fence: RegExp): string[] =>
  [...markdown.matchAll(new RegExp(`${fence.source}\\n([\\s\\S]*?)^\`\`\``, 'gm'))].map(([, block]) => block!);

/** Blocks of TypeScript as one module: one after the other, imports in front. */
export function moduleFrom(blocks: readonly string[]): string {
  const names = new Map<string, Set<string>>();
  const body = blocks.join('\n').replace(/^import \{([^}]*)\} from '([^']*)';$/gm, (_, list: string, from: string) => {
    const known = names.get(from) ?? new Set();
    list
      .split(',')
      .map((name) => name.trim())
      .filter(Boolean)
      .forEach((name) => known.add(name));
    names.set(from, known);
    return '';
  });
  return `${[...names].map(([from, list]) => `import { ${[...list].join(', ')} } from '${from}';`).join('\n')}\n${body}\nexport {};\n`;
}

/** How a recipe can be written: on a plain page, in React, in Vue. */
export const VARIANTS = { plain: /^```ts page/, react: /^```tsx page/, vue: /^```vue/ } as const;
export type Variant = keyof typeof VARIANTS;

/** The ways in which a recipe is written that runs on a page. */
export const variantsOf = (markdown: string): readonly Variant[] =>
  (Object.keys(VARIANTS) as Variant[]).filter((variant) => blocksIn(markdown, VARIANTS[variant]).length > 0);

/** The code of a recipe, as the text of a module; of Vue, of a component. */
export const codeOf = (markdown: string, variant: Variant): string =>
  variant === 'vue' ? blocksIn(markdown, VARIANTS.vue)[0]! : moduleFrom(blocksIn(markdown, VARIANTS[variant]));

/** Its page: without a framework, the HTML of the recipe; else an element that the framework fills. */
export const htmlOf = (markdown: string, variant: Variant): string =>
  variant === 'plain' ? blocksIn(markdown, /^```html/).join('') : '<div id="root"></div>';
