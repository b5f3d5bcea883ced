// Around a recipe that runs in the documentation: a server that is simulated, and a record of what the recipe did. It is loaded before the
// recipe.

import { answerTo, type Mood } from './server.ts';

const log = document.querySelector('#log ol')!;
const server = document.querySelector<HTMLSelectElement>('#server')!;
const MOST = 50;

/** Adds a line to the record. */
function note(kind: string, text: string): void {
  const line = document.createElement('li');
  const name = document.createElement('strong');
  name.textContent = kind;
  line.append(name, ` ${text}`);
  log.append(line);
  while (log.childElementCount > MOST) log.firstElementChild!.remove();
  log.parentElement!.scrollTop = log.scrollHeight;
}

document.querySelector('#inspect')!.addEventListener('click', () => {
  void import('upper-gate/inspector').then(({ inspect }) => inspect(undefined, { open: true }));
});

const written = (value: unknown): string => {
  if (typeof value === 'string') return value;
  try {
    return value instanceof Error ? String(value) : JSON.stringify(value);
  } catch {
    return String(value);
  }
};
for (const level of ['log', 'info', 'warn', 'error'] as const) {
  const real = console[level].bind(console);
  console[level] = (...values: unknown[]) => {
    real(...values);
    note(`console.${level}`, values.map(written).join(' '));
  };
}
addEventListener('error', ({ message }) => note('error', message));

/** What a body says, on one line. */
async function bodyOf(request: Request): Promise<string> {
  const type = request.headers.get('content-type') ?? '';
  if (request.method === 'GET') return '';
  return type.startsWith('multipart/') ? formOf(await request.formData()) : request.text();
}
const formOf = (data: FormData): string =>
  [...data].map(([name, value]) => `${name}=${typeof value === 'string' ? value : value.name}`).join('&');

/** Asks the simulated server, in the mood that is chosen. */
async function ask(request: Request): Promise<Response> {
  const { pathname } = new URL(request.url);
  const body = await bodyOf(request.clone());
  const mood = server.value as Mood;
  try {
    const reply = await answerTo(request, mood);
    note(`${request.method} ${pathname}`, `${body} → ${reply.status}`);
    return reply;
  } catch (error) {
    note(`${request.method} ${pathname}`, `${body} → no answer`);
    throw error;
  }
}
globalThis.fetch = (input, init) => ask(new Request(input, init));

/** As much of an upload as a recipe uses. */
class Upload {
  readonly upload: { onprogress?: (event: { loaded: number; total: number }) => void } = {};
  onload?: () => void;
  onerror?: () => void;
  onabort?: () => void;
  status = 0;
  responseText = '';
  #open: [method: string, url: string] = ['GET', '/'];
  #type: string | null = null;
  readonly #ended = new AbortController();
  open(method: string, url: string): void {
    this.#open = [method, url];
  }
  getResponseHeader(): string | null {
    return this.#type;
  }
  abort(): void {
    this.#ended.abort();
    this.onabort?.();
  }
  send(body: FormData): void {
    const [method, url] = this.#open;
    const steps = 5;
    for (let step = 1; step <= steps; step += 1) setTimeout(() => this.upload.onprogress?.({ loaded: step, total: steps }), step * 100);
    ask(new Request(url, { method, body, signal: this.#ended.signal })).then(
      async (reply) => {
        [this.status, this.responseText, this.#type] = [reply.status, await reply.text(), reply.headers.get('content-type')];
        this.onload?.();
      },
      () => this.onerror?.(),
    );
  }
}
globalThis.XMLHttpRequest = Upload as unknown as typeof XMLHttpRequest;

// Where the browser sends a form itself, there is nobody to answer.
const noteSent = (form: HTMLFormElement, submitter?: HTMLElement | null): void =>
  note('the browser sends', `${form.getAttribute('action') ?? ''} ${formOf(new FormData(form, submitter))}`);
addEventListener('submit', (event) => {
  if (event.defaultPrevented) return;
  event.preventDefault();
  noteSent(event.target as HTMLFormElement, event.submitter);
});
HTMLFormElement.prototype.submit = function submit() {
  noteSent(this);
};

// Markup that a recipe loads is the one that comes with it.
interface TrustedTypes {
  createPolicy(name: string, rules: { createHTML: (html: string) => string }): unknown;
}
(globalThis as { trustedTypes?: TrustedTypes }).trustedTypes?.createPolicy('default', {
  createHTML(html) {
    if (html !== INSURANCE) throw new TypeError('No markup but that of the recipe.');
    return html;
  },
});
