// A timeline as a picture: lanes over a scale of milliseconds, then what happened, in words. It needs nothing from elsewhere, is readable
// on a light and a dark page, and says the same as text to those who do not see it.

import type { Element } from 'hast';
import { toHtml } from 'hast-util-to-html';
import { s } from 'hastscript';
import { scaleStep, timelineText, type Timeline, type TimelineMark, type TimelineSpan } from 'upper-gate/testing';

const WIDTH = 960;
const LEFT = 190;
const RIGHT = 24;
const ROW = 22;
const LINE = 17;

/** Shapes beside colours: nobody has to tell colours apart. */
const MARKS: Readonly<Record<TimelineMark['kind'], (x: number, y: number) => Element>> = {
  edited: (x, y) => s('rect.user', { x: x - 4, y: y - 4, width: 8, height: 8 }),
  row: (x, y) => s('path.user', { d: `M${x - 5} ${y - 4}h10M${x - 5} ${y}h10M${x - 5} ${y + 4}h10` }),
  left: (x, y) => s('path.user', { d: `M${x + 5} ${y - 4}v5h-9m4 -4l-4 4l4 4` }),
  reset: (x, y) => s('path.user', { d: `M${x + 5} ${y}a5 5 0 1 1 -2 -4m0 -3v4h-4` }),
  submitted: (x, y) => s('path.user.full', { d: `M${x - 4} ${y - 5}l9 5l-9 5z` }),
  fact: (x, y) => s('path.user.full', { d: `M${x} ${y - 6}l6 6l-6 6l-6 -6z` }),
  answered: (x, y) => s('circle.answer', { cx: x, cy: y, r: 5 }),
  dropped: (x, y) => s('path.dropped', { d: `M${x - 5} ${y - 5}l10 10m0 -10l-10 10` }),
  late: (x, y) => s('circle.late', { cx: x, cy: y, r: 4.5 }),
};
const MARK_WORDS: Readonly<Record<TimelineMark['kind'], string>> = {
  edited: 'edited',
  row: 'row',
  left: 'left',
  reset: 'reset',
  submitted: 'submitted',
  fact: 'fact changed',
  answered: 'answered',
  dropped: 'dropped or refused',
  late: 'too late',
};
const SPAN_WORDS: Readonly<Record<TimelineSpan['kind'], string>> = {
  paused: 'waiting',
  checking: 'waiting',
  asked: 'asked',
  sending: 'asked',
  found: 'found',
  shown: 'shown',
};
const SPAN_CLASSES: Readonly<Record<TimelineSpan['kind'], string>> = { ...SPAN_WORDS, paused: 'paused', checking: 'paused' };

const STYLE = `
svg { background: #fff; color: #1b2a33; font: 12px system-ui, sans-serif; }
text { fill: currentColor; } .path { font-weight: 600; } .faint { fill: #5a6b75; } .grid { stroke: #d5dde1; } .band { fill: #f2f5f7; }
.user { fill: none; stroke: #14505c; stroke-width: 2; } rect.user, .user.full { fill: #14505c; stroke: none; }
.paused { stroke: #5a6b75; stroke-width: 2; stroke-dasharray: 2 4; } .asked { stroke: #1f6f8b; stroke-width: 4; }
.answer { fill: #1f6f8b; } .late { fill: none; stroke: #5a6b75; stroke-width: 2; } .dropped { stroke: #b3261e; stroke-width: 2.5; fill: none; }
.found { fill: #f6d9d6; } .shown { fill: #b3261e; } .alarm { fill: #b3261e; }
@media (prefers-color-scheme: dark) {
  svg { background: #12191d; color: #e5ecef; } .faint { fill: #9fb0b8; } .grid { stroke: #2c3940; } .band { fill: #1a2329; }
  .user { stroke: #7fd0de; } rect.user, .user.full { fill: #7fd0de; } .asked { stroke: #5bb6d4; } .answer { fill: #5bb6d4; }
  .paused, .late { stroke: #9fb0b8; } .dropped { stroke: #ff8a80; } .found { fill: #5a2a27; } .shown { fill: #ff8a80; } .alarm { fill: #ff8a80; }
}`;

/** A timeline as a standalone SVG. */
export function timelineSvg(timeline: Timeline): string {
  const { name, length, lanes, moments } = timeline;
  const xOf = (at: number): number => Math.round((LEFT + (length === 0 ? 0 : (at / length) * (WIDTH - LEFT - RIGHT))) * 10) / 10;
  const content: Element[] = [];
  const used = new Map<string, (x: number, y: number) => Element>();
  let y = 62;
  const text = (x: number, at: number, classes: string, words: string): Element =>
    s('text', { x, y: at, className: classes.split(' ').filter(Boolean) }, words);

  const spanAt = ({ kind }: TimelineSpan, from: number, to: number, at: number): Element =>
    kind === 'found' || kind === 'shown'
      ? s('rect', { className: [kind], x: from, y: at - 6, width: Math.max(2, to - from), height: 12, rx: 2 })
      : s('path', { className: [SPAN_CLASSES[kind]], d: `M${from} ${at}H${Math.max(from + 2, to)}` });

  content.push(text(16, 26, 'path', name));
  const top = y;
  for (const { path, tracks } of lanes) {
    content.push(s('rect.band', { x: 0, y, width: WIDTH, height: ROW }), text(16, y + 15, 'path', path === '' ? 'the form' : path));
    y += ROW;
    for (const { name: title, marks, spans } of tracks) {
      const middle = y + ROW / 2;
      content.push(text(28, middle + 4, '', title.length > 24 ? `${title.slice(0, 23)}…` : title));
      for (const span of spans) {
        content.push(spanAt(span, xOf(span.from), xOf(span.to), middle));
        used.set(SPAN_WORDS[span.kind], (x, at) => spanAt(span, x - 8, x + 8, at));
      }
      let taken = -Infinity;
      for (const { at, kind } of marks) {
        // What happens at the same moment stands side by side.
        const place = Math.max(xOf(at), taken + 11);
        taken = place;
        content.push(MARKS[kind](place, middle));
        used.set(MARK_WORDS[kind], MARKS[kind]);
      }
      y += ROW;
    }
  }
  const step = scaleStep(length, 10);
  const grid: Element[] = [];
  for (let at = 0; at <= length; at += step)
    grid.push(
      s('path.grid', { d: `M${xOf(at)} ${top}V${y}` }),
      s('text.faint', { x: xOf(at), y: top - 6, textAnchor: 'middle' }, `${at} ms`),
    );

  y += 26;
  let x = 24;
  for (const [words, draw] of used) {
    content.push(draw(x, y - 4), text(x + 14, y, 'faint', words));
    x += 34 + words.length * 7;
  }
  y += 30;
  let last: { readonly at: number; readonly path: string } | undefined;
  for (const { at, path, text: words } of moments) {
    if (last?.at !== at) content.push(s('text.faint', { x: 60, y, textAnchor: 'end' }, `${at} ms`));
    if (last?.at !== at || last.path !== path) content.push(text(74, y, 'path', path === '' ? 'the form' : path));
    content.push(
      text(LEFT + 10, y, / is shown$|finds /.test(words) ? 'alarm' : '', words.length > 118 ? `${words.slice(0, 117)}…` : words),
    );
    last = { at, path };
    y += LINE;
  }
  const height = y + 8;
  const picture = s(
    'svg',
    {
      xmlns: 'http://www.w3.org/2000/svg',
      viewBox: `0 0 ${WIDTH} ${height}`,
      width: WIDTH,
      height,
      role: 'img',
      ariaLabelledBy: ['title', 'desc'],
    },
    [s('title', { id: 'title' }, name), s('desc', { id: 'desc' }, timelineText(timeline)), s('style', STYLE), ...grid, ...content],
  );
  return `${toHtml(picture, { space: 'svg' })}\n`;
}
