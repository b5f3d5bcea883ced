// The timeline: the lanes of a trace, as a rehearsal draws them, and what happened in words.

import { LEGEND, MARKS } from '../testing/text.ts';
import type { Timeline } from '../testing/timeline.ts';
import { h } from './draw.ts';

/** How many milliseconds are drawn, up to now, and how many sentences. */
const WINDOW = 20_000;
const MOST = 100;
/** How far apart marks are at least, in percent of the width. */
const BESIDE = 3;

/** Draws a timeline. @param filter a part of the paths that are drawn */
export function drawLanes(element: HTMLElement, { lanes, length, moments }: Timeline, filter: string): void {
  const from = Math.max(0, length - WINDOW);
  const part = (at: number): number => Math.min(100, Math.max(0, ((at - from) / Math.max(1, length - from)) * 100));
  const isWanted = (path: string): boolean => path.toLowerCase().includes(filter.trim().toLowerCase());
  const drawn = lanes
    .filter(({ path }) => isWanted(path))
    .map(({ path, tracks }) =>
      h(
        'li',
        {},
        h('strong', {}, path === '' ? 'the form' : path),
        ...tracks.map(({ name, marks, spans }) => {
          const line = h('span', { class: 'line' });
          for (const span of spans) {
            if (span.to < from) continue;
            const stretch = h('i', { class: `span ${span.kind}` });
            stretch.style.left = `${part(span.from)}%`;
            stretch.style.width = `${Math.max(0.4, part(span.to) - part(span.from))}%`;
            line.append(stretch);
          }
          let taken = -Infinity;
          for (const { at, kind } of marks) {
            if (at < from) continue;
            const mark = h('b', { class: kind }, MARKS[kind]);
            // What happens at the same moment stands side by side.
            taken = Math.max(part(at), taken + BESIDE);
            mark.style.left = `${Math.min(100, taken)}%`;
            line.append(mark);
          }
          return h('span', { class: 'track' }, h('span', { class: 'name' }, name), line);
        }),
      ),
    );
  const told = moments
    .filter(({ path }) => isWanted(path))
    .slice(-MOST)
    .reverse();
  const picture = h('ul', { class: 'lanes', 'aria-hidden': 'true' }, ...drawn);
  const legend = h(
    'p',
    { class: 'legend', 'aria-hidden': 'true' },
    ...Object.entries(LEGEND).map(([sign, text]) => h('span', {}, `${sign} ${text}`)),
  );
  const sentences = h(
    'ol',
    { class: 'moments' },
    ...told.map(({ at, path, text }) =>
      h('li', {}, h('span', { class: 'faint' }, `${at} ms `), h('strong', {}, path === '' ? 'the form' : path), ` ${text}`),
    ),
  );
  element.replaceChildren(
    ...(told.length > 0 || drawn.length > 0
      ? [picture, legend, sentences]
      : [h('p', { class: 'faint' }, 'Nothing has happened since the inspector was opened.')]),
  );
}
