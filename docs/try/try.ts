// The playground: a schema in an editor, and what comes of it. What is written runs in a page of its own, without an origin, and speaks to
// this one by messages: they are shown as text.

import { autocompletion, type CompletionContext } from '@codemirror/autocomplete';
import { javascript } from '@codemirror/lang-javascript';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { linter, lintGutter } from '@codemirror/lint';
import { EditorView, hoverTooltip } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { basicSetup } from 'codemirror';
import { wrap } from 'comlink';
import { pack, unpack } from './address.ts';
import type { Told, View } from './messages.ts';
import type { TypeScript } from './worker.ts';
import workerUrl from './worker.ts?worker&url';

const EXAMPLE = `import { appliesWhen, choice, email, group, length, list, number, range, required, text } from 'upper-gate';

export default group({
  vessel: text({ label: 'Vessel name', hint: 'As painted on the bow' }, required(), length({ max: 40 })),
  kind: choice('Kind of boat', ['barge', 'narrowboat', 'canoe'], required()),
  beam: number('Beam (m)', required(), range({ min: 0.5, max: 5.2, step: 0.1 })),
  tug: text('Tug', required()),
  email: text('E-mail', email()),
  crew: list({ label: 'Crew', rowLabel: 'Crew member' }, group({ name: text('Name', required()) }), length({ min: 1 })),
}).with(appliesWhen({ tug: (boat) => boat.beam > 4 }));
`;

interface TrustedTypes {
  createPolicy(name: string, rules: { createScriptURL: (url: string) => string }): { createScriptURL(url: string): string };
}
/** The worker is a script of this site; a policy says so. */
const policy = (globalThis as { trustedTypes?: TrustedTypes }).trustedTypes?.createPolicy('upper-gate-try', {
  createScriptURL(url) {
    if (new URL(url, location.href).origin !== location.origin) throw new TypeError('No script of another site.');
    return url;
  },
});
const typescript = wrap<TypeScript>(new Worker(policy ? policy.createScriptURL(workerUrl) : workerUrl, { type: 'module' }));

const find = <E extends HTMLElement>(id: string): E => document.querySelector<E>(`#${id}`)!;
const frame = find<HTMLIFrameElement>('run');
const problems = find('problems');
const view = find('view');
const views: Partial<Record<View, string>> = {};

function show(): void {
  const chosen = document.querySelector<HTMLInputElement>('[name=view]:checked')!.value as View;
  view.textContent = views[chosen] ?? '';
}
find('views').addEventListener('change', show);

const inspects = find<HTMLButtonElement>('inspect');
inspects.addEventListener('click', () => {
  const isOn = inspects.getAttribute('aria-pressed') !== 'true';
  inspects.setAttribute('aria-pressed', String(isOn));
  frame.contentWindow!.postMessage({ inspects: isOn }, '*');
});

let isReady = false;
let compiled = '';
function run(): void {
  if (isReady && compiled !== '') frame.contentWindow!.postMessage({ code: compiled }, '*');
}
addEventListener('message', ({ source, data }: MessageEvent<Told>) => {
  if (source !== frame.contentWindow) return;
  if ('ready' in data) {
    isReady = true;
    return run();
  }
  if ('error' in data) return void (problems.textContent = data.error);
  Object.assign(views, data.views);
  show();
});

// Not before: it says once that it is there.
frame.src = './run/run.html';

/** The text that was compiled last. */
let latest = '';
async function update(text: string): Promise<void> {
  latest = text;
  const [code, hash] = await Promise.all([typescript.compile(text), pack(text)]);
  if (text !== latest) return;
  compiled = code;
  problems.textContent = '';
  history.replaceState(null, '', `#${hash}`);
  run();
}

/** How long to wait after a keystroke, in milliseconds. */
const PAUSE = 400;
let timer: ReturnType<typeof setTimeout>;
const word = /[\w$]*$/;
const complete = async ({ state, pos, explicit }: CompletionContext) => {
  const text = state.doc.toString();
  const before = text.slice(0, pos);
  const from = pos - word.exec(before)![0].length;
  if (!explicit && from === pos && !before.endsWith('.')) return null;
  const options = await typescript.completionsAt(text, pos);
  return { from, options: options.map(({ label, type }) => ({ label, type })), validFor: /^[\w$]*$/ };
};
const hover = hoverTooltip(async ({ state }, pos) => {
  const info = await typescript.infoAt(state.doc.toString(), pos);
  if (info === undefined || info === '') return null;
  const dom = document.createElement('div');
  dom.className = 'info';
  dom.textContent = info;
  return { pos, create: () => ({ dom }) };
});

/** The colours of code, as the documentation has them. */
const COLOURS = HighlightStyle.define([
  { tag: [tags.keyword, tags.operator, tags.number, tags.bool], color: 'var(--word)' },
  { tag: [tags.string, tags.regexp], color: 'var(--text)' },
  { tag: [tags.propertyName, tags.definition(tags.variableName), tags.typeName, tags.function(tags.variableName)], color: 'var(--name)' },
  { tag: tags.comment, color: 'var(--soft)' },
]);

// In a shadow root, its styles need no exception from the policy of the site.
const root = find('editor').attachShadow({ mode: 'open' });
const doc = (await unpack(location.hash.slice(1))) ?? EXAMPLE;
const editor = new EditorView({
  parent: root,
  root,
  doc,
  extensions: [
    basicSetup,
    javascript({ typescript: true }),
    syntaxHighlighting(COLOURS),
    lintGutter(),
    linter(
      async ({ state }) => (await typescript.problemsIn(state.doc.toString())).map((each) => ({ ...each, severity: 'error' as const })),
      {
        delay: PAUSE,
      },
    ),
    autocompletion({ override: [complete] }),
    hover,
    EditorView.lineWrapping,
    EditorView.contentAttributes.of({ 'aria-label': 'Schema', 'aria-describedby': 'keys' }),
    EditorView.theme({
      '&': { fontSize: '14px', height: '100%', background: 'var(--page)', color: 'var(--ink)' },
      '.cm-content': { caretColor: 'var(--ink)' },
      '.cm-cursor': { borderLeftColor: 'var(--ink)' },
      '.cm-gutters': { background: 'var(--soft-page)', color: 'var(--soft)' },
      '.cm-activeLine, .cm-activeLineGutter': { background: 'color-mix(in srgb, var(--link) 12%, transparent)' },
      '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': {
        background: 'color-mix(in srgb, var(--link) 30%, transparent) !important',
      },
      '.cm-tooltip': {
        background: 'var(--page)',
        color: 'var(--ink)',
        border: '1px solid var(--edge)',
        maxWidth: '40rem',
        whiteSpace: 'pre-wrap',
      },
      '.info': { padding: '0.4rem 0.6rem', font: '13px/1.4 ui-monospace, monospace' },
    }),
    EditorView.updateListener.of(({ docChanged, state }) => {
      if (!docChanged) return;
      clearTimeout(timer);
      timer = setTimeout(() => void update(state.doc.toString()), PAUSE);
    }),
  ],
});
void update(editor.state.doc.toString());

find('share').addEventListener('click', () => {
  navigator.clipboard.writeText(location.href).then(
    () => (find('shared').textContent = 'Copied'),
    () => (find('shared').textContent = 'The address above holds the schema'),
  );
});
