// The pages of the documentation, and the examples in them.

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { blocksIn, moduleFrom } from '../live/blocks.ts';

export const root = join(__dirname, '../..');

const markdownIn = (folder: string): string[] =>
  readdirSync(join(root, folder))
    .filter((name) => name.endsWith('.md'))
    .map((name) => `${folder}/${name}`);

export const pages = ['README.md', 'packages/upper-gate/README.md', ...markdownIn('docs'), ...markdownIn('docs/recipes')];

export const textOf = (page: string): string => readFileSync(join(root, page), 'utf8');

/** The blocks of code of a page that begin with a fence: `/^```ts/`. */
export const blocksOf = (page: string, fence: RegExp): string[] => blocksIn(textOf(page), fence);

/** The TypeScript of a page as one module. */
export const moduleOf = (page: string, fence: RegExp): string => moduleFrom(blocksOf(page, fence));
