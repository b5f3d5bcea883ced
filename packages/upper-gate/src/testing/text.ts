// A timeline as text, for terminals and error messages.

import type { Timeline, TimelineMark, TimelineSpan } from './timeline.ts';

/** What stands for marks and spans. */
export const MARKS: Readonly<Record<TimelineMark['kind'], string>> = {
  edited: '▪',
  left: '↵',
  answered: '●',
  dropped: '╳',
  late: '○',
  submitted: '▶',
  reset: '↺',
  row: '≡',
  fact: '◆',
};
const SPANS: Readonly<Record<TimelineSpan['kind'], string>> = {
  paused: '┄',
  asked: '━',
  found: '░',
  shown: '▓',
  checking: '┄',
  sending: '━',
};
export const LEGEND: Readonly<Record<string, string>> = {
  '▪': 'edited',
  '↵': 'left',
  '▶': 'submitted',
  '↺': 'reset',
  '≡': 'row',
  '◆': 'fact changed',
  '┄': 'waiting',
  '━': 'asked',
  '●': 'answered',
  '╳': 'dropped or refused',
  '○': 'too late',
  '░': 'found',
  '▓': 'shown',
};

/** How a kind of text is written: as it is, or in colour. */
export interface TimelineStyle {
  /** Paths and names. */
  readonly name?: (text: string) => string;
  /** What is wrong. */
  readonly error?: (text: string) => string;
  /** What matters less. */
  readonly faint?: (text: string) => string;
}

/**
 * Returns the step of a scale: 1, 2 or 5 times a power of ten.
 *
 * @param length how long the scale is, in milliseconds
 * @param most how many steps there are at most
 * @returns the step, in milliseconds
 */
export function scaleStep(length: number, most: number): number {
  for (let power = 1; ; power *= 10) for (const factor of [1, 2, 5]) if (length / (power * factor) <= most) return power * factor;
}

const asIs = (text: string): string => text;

/** Texts side by side, in lines that are not too long. */
function wrapped(texts: readonly string[], width: number): readonly string[] {
  const lines: string[] = [];
  for (const text of texts) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + 3 + text.length <= width) lines[lines.length - 1] = `${last}   ${text}`;
    else lines.push(text);
  }
  return lines;
}

/**
 * Writes a timeline as text: the lanes of its fields over a scale of milliseconds, then what happened, in words.
 *
 * @param timeline the timeline
 * @param options `width` in characters, default 100; `style`: functions that colour parts of it
 * @returns lines of text
 *
 * @example
 * console.log(timelineText(rehearsed.timeline));
 */
export function timelineText(
  timeline: Timeline,
  { width = 100, style = {} }: { readonly width?: number; readonly style?: TimelineStyle } = {},
): string {
  const { name = asIs, error = asIs, faint = asIs } = style;
  const { lanes, length, moments } = timeline;
  const titles = lanes.flatMap(({ tracks }) => tracks.map((track) => track.name.length + 2));
  const left = Math.min(28, Math.max(10, ...titles, ...lanes.map(({ path }) => path.length)) + 2);
  const columns = Math.max(20, width - left);
  const columnOf = (at: number): number => (length === 0 ? 0 : Math.round((at / length) * (columns - 1)));
  const cut = (text: string): string => (text.length < left ? text : `${text.slice(0, left - 2)}…`).padEnd(left);

  const step = scaleStep(length, Math.floor(columns / 10));
  let scale = '';
  for (let at = 0; at <= length; at += step) {
    const column = columnOf(at);
    const label = String(at);
    if (column >= scale.length && column + label.length <= columns) scale = scale.padEnd(column) + label;
  }
  const used = new Set<string>();
  const lines = [name(timeline.name), '', faint('ms'.padEnd(left) + scale)];
  for (const { path, tracks } of lanes) {
    lines.push(name(path === '' ? 'the form' : path));
    for (const { name: title, marks, spans } of tracks) {
      const cells = Array<string>(columns).fill(' ');
      for (const { from, to, kind } of spans) cells.fill(SPANS[kind], columnOf(from), Math.max(columnOf(from) + 1, columnOf(to)));
      let taken = -1;
      for (const { at, kind } of marks) {
        // What happens at the same moment stands side by side.
        taken = Math.min(columns - 1, Math.max(columnOf(at), taken + 1));
        cells[taken] = MARKS[kind];
      }
      cells.forEach((cell) => used.add(cell));
      lines.push(cut(`  ${title}`) + cells.join('').trimEnd().replace(/[▓╳]+/g, error).replace(/[░○]+/g, faint));
    }
  }
  const legend = Object.entries(LEGEND).flatMap(([sign, text]) => (used.has(sign) ? [`${sign} ${text}`] : []));
  if (legend.length > 0) lines.push('', ...wrapped(legend, width).map(faint));
  lines.push('');
  const stamp = Math.max(4, String(length).length);
  let last: { readonly at: number; readonly path: string } | undefined;
  for (const { at, path, text } of moments) {
    const isSame = last?.at === at && last.path === path;
    const when = last?.at === at ? ' '.repeat(stamp) : String(at).padStart(stamp);
    lines.push(
      `${faint(when)}  ${name(cut(isSame ? '' : path === '' ? 'the form' : path))}${/ is shown$|finds /.test(text) ? error(text) : text}`,
    );
    last = { at, path };
  }
  return lines.map((line) => line.trimEnd()).join('\n');
}
