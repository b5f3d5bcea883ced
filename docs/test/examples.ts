// The pages of the documentation, and the examples in them.

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

export const root = join(__dirname, '../..');

const markdownIn = (folder: string): string[] =>
  readdirSync(join(root, folder))
    .filter((name) => name.endsWith('.md'))
    .map((name) => `${folder}/${name}`);

export const pages = ['README.md', 'packages/upper-gate/README.md', ...markdownIn('docs'), ...markdownIn('docs/recipes')];

export const textOf = (page: string): string => readFileSync(join(root, page), 'utf8');

/** The blocks of code of a page that begin with a fence: `/^```ts/`. */
export const blocksOf = (page: string, fence: RegExp): string[] => [...textOf(page).matchAll(new RegExp(`${fence.source}\\n([\\s\\S]*?)^\`\`\``, 'gm'))].map(([, block]) => block!);

/** The TypeScript of a page as one module: its examples one after the other, imports in front. */
export function moduleOf(page: string, fence: RegExp): string {
  const names = new Map<string, Set<string>>();
  const body = blocksOf(page, fence)
    .join('\n')
    .replace(/^import \{([^}]*)\} from '([^']*)';$/gm, (_, list: string, from: string) => {
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
