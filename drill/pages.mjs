// Pages that are drawn again with what was sent: it must come out as text, wherever it stands.
import { parse } from 'parse5';
import { choice, group, list, text } from 'upper-gate';
import { redrawForm } from 'upper-gate/server';

const schema = group({
  vessel: text('Vessel'),
  remarks: text('Remarks'),
  kind: choice('Kind', ['barge']),
  crew: list('Crew', group({ name: text('Name') })),
});
const PAGE = `<!doctype html><title>Book</title><form><p data-gate-messages></p><section data-gate-summary></section><input name="vessel">
<textarea name="remarks"></textarea><select name="kind"><option>barge</option></select><template data-gate-rows="crew"><div><input name="name"></div></template></form>`;

const HOSTILE = [
  '</textarea><script>alert(1)</script>',
  '"><script>alert(1)</script>',
  "' onfocus='alert(1)' autofocus='",
  '</title><script>alert(1)</script>',
  '<!--<script>',
  '--><script>alert(1)</script>',
  '</template><script>alert(1)</script>',
  '</select><img src=x onerror=alert(1)>',
  '<svg><script>alert(1)</script></svg>',
  '&lt;script&gt;',
  '\n</textarea><script>',
  ']]><script>',
  '\u2028<script>',
  '<plaintext>',
  '${alert(1)}',
  '{{constructor.constructor("alert(1)")()}}',
];

function* elementsIn(node) {
  for (const child of node.childNodes ?? []) {
    if (child.attrs) yield child;
    yield* elementsIn(child);
  }
  if (node.content) yield* elementsIn(node.content);
}
const shapeOf = (html) =>
  [...elementsIn(parse(html))]
    .map(
      ({ tagName, attrs }) =>
        `${tagName} ${attrs
          .map(({ name }) => name)
          .sort()
          .join(' ')}`,
    )
    .join('\n');

export const attacks = [
  {
    name: 'markup in what is sent',
    async run({ holds }) {
      const draw = (hostile) =>
        redrawForm(PAGE, {
          schema,
          raw: { vessel: hostile, remarks: hostile, kind: hostile, [hostile]: hostile, crew: [{ name: hostile }] },
          findings: ['vessel', 'remarks', 'crew.0.name', ''].map((path) => ({ path, message: hostile, severity: 'error', code: 'x' })),
        });
      // Whatever is sent, the page has the elements and attributes that it has for a harmless text.
      const harmless = shapeOf(await draw('harmless'));
      for (const hostile of HOSTILE) holds(shapeOf(await draw(hostile)) === harmless, `${hostile} changed the page`);
    },
  },
  {
    name: 'pages of a thousand rows',
    async run({ holds, note }) {
      const paths = Array.from({ length: 1000 }, (_, i) => `crew.${i}.name`);
      const findings = paths.map((path) => ({ path, message: 'x', severity: 'error', code: 'x' }));
      const started = performance.now();
      const html = await redrawForm(PAGE, { schema, raw: { crew: paths.map((name) => ({ name })) }, findings });
      const time = performance.now() - started;
      holds(html.includes('crew.999.name') && html.length < 600_000, `a page of ${html.length} bytes`);
      holds(time < 1500, `it took ${time} ms`);
      note(`${time.toFixed(0)} ms`);
    },
  },
];
