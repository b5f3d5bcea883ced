// The inspector beside recipes, and in the playground.

import { test } from '@jest/globals';
import { useDemo } from '../../examples/lock-passage/test/browser.ts';
import { useInspector } from '../../examples/lock-passage/test/inspecting.ts';

const demo = useDemo();

test.each(['live/counter.plain.html', 'live/drafts.react.html', 'live/facts.vue.html'])('the inspector works in %s', (page) => useInspector(demo, `/docs/${page}`));

test('the inspector works in the playground', () => useInspector(demo, '/docs/try/index.html', true));
