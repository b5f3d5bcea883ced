// The charts of docs/performance.md, drawn from what was recorded: results.json (speed) and sizes.json.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse, View } from 'vega';
import { compile } from 'vega-lite';

const read = (name) => JSON.parse(readFileSync(join(import.meta.dirname, name), 'utf8'));

/** What the library does (blue), and the budget (a line across), by row. */
const rows = (values, { title, format }) => ({
  data: { values },
  width: 380,
  height: values.length * 20,
  // (Without a canvas, widths of texts are guessed too large, and so would be the margin.)
  autosize: 'none',
  padding: { left: 470, right: 30, top: 5, bottom: 45 },
  background: 'white',
  config: { axis: { labelLimit: 0, labelFontSize: 12, titleFontSize: 12 } },
  encoding: { y: { field: 'what', type: 'nominal', sort: null, title: null } },
  layer: [
    { mark: { type: 'bar', color: '#2f7f8e' }, encoding: { x: { field: 'value', type: 'quantitative', title, axis: { format } } } },
    { mark: { type: 'tick', color: '#b3261e', thickness: 3, size: 16 }, encoding: { x: { field: 'budget', type: 'quantitative' } } },
  ],
});

const NAMES = {
  S1: 'validate, texts and two rules',
  S2a: 'a live contact form, without a page',
  S2: 'the same on a plain page',
  S2b: 'a form that has everything',
  S4: 'the whole main entry',
};

/** @returns each chart, as SVG, by its name */
export async function makeCharts() {
  const { figures } = read('results.json');
  const sizes = read('sizes.json');
  const charts = {
    speed: rows(
      // (How much cheaper an edit is than validating everything has another scale.)
      figures.filter(({ id }) => id !== 'P4').map(({ what, ratio, budget }) => ({ what, value: ratio, budget })),
      { title: 'times as long (red: the budget)', format: '~g' },
    ),
    size: rows(
      Object.entries(NAMES).map(([id, what]) => ({ what, value: sizes[id] })),
      { title: 'kB, minified and compressed', format: '~g' },
    ),
  };
  const drawn = Object.entries(charts).map(async ([name, chart]) => [name, await new View(parse(compile(chart).spec)).toSVG()]);
  return Object.fromEntries(await Promise.all(drawn));
}

/** Writes the charts into docs/charts. */
export async function drawCharts() {
  const folder = join(import.meta.dirname, '../docs/charts');
  mkdirSync(folder, { recursive: true });
  for (const [name, svg] of Object.entries(await makeCharts())) writeFileSync(join(folder, `${name}.svg`), `${svg}\n`);
}
