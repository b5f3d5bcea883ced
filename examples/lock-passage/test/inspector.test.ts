// The inspector on the pages of the demo.

import { test } from '@jest/globals';
import { PAGES, useDemo } from './browser.ts';
import { useInspector } from './inspecting.ts';

const demo = useDemo();

test.each(Object.entries(PAGES))('%s: the inspector works behind its button', (_, [path]) => useInspector(demo, path));
