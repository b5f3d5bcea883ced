// Forms of an interface that somebody else describes: an operation of its OpenAPI document is chosen, its form is drawn, bound, and sent.

import { createGate } from 'upper-gate';
import { bindForm, errorSummary, templateRows } from 'upper-gate/dom';
import { describeSchema } from 'upper-gate/interop';
import type { JsonObject } from 'upper-gate/json-schema';
import { fromOpenApi } from 'upper-gate/openapi';
import { toMarkup } from '../../../packages/cli/src/convert/markup.ts';
import './inspecting.ts';
import './style.css';

interface Operation {
  readonly operationId: string;
  readonly summary: string;
  readonly tags: readonly string[];
  readonly requestBody?: {
    readonly content: Readonly<Record<string, { readonly examples?: Readonly<Record<string, { readonly value: unknown }>> }>>;
  };
}

const $ = <E extends HTMLElement>(id: string): E => document.querySelector<E>(`#${id}`)!;
const [chooser, about, place, example] = [$<HTMLSelectElement>('operation'), $('about'), $('form'), $('example')];

// What is drawn is made of texts that are escaped; this page's policy lets that one maker of markup through.
const policy = (
  globalThis as { trustedTypes?: { createPolicy(name: string, rules: object): { createHTML(html: string): string } } }
).trustedTypes?.createPolicy('interface', { createHTML: (html: string) => html }) ?? { createHTML: (html: string) => html };

const response = await fetch('/interface/openapi.json');
const api = (await response.json()) as JsonObject & { readonly paths: Readonly<Record<string, Readonly<Record<string, Operation>>>> };
const operations = Object.values(api.paths).flatMap((item) => Object.values(item).filter((each) => 'operationId' in each));

/** A part of a form body, on one line. */
async function part([name, value]: readonly [string, string | File]): Promise<string> {
  if (typeof value === 'string') return `${name}: ${value}`;
  return `${name}: ${value.type === 'application/json' ? await value.text() : `${value.name} (${value.type}, ${value.size} bytes)`}`;
}

/** What a request body looks like. */
async function shown(body: unknown): Promise<string> {
  if (body instanceof FormData || body instanceof URLSearchParams) return (await Promise.all([...body].map(part))).join('\n');
  return typeof body === 'string' ? JSON.stringify(JSON.parse(body), null, 2) : '';
}

let leave: () => void = () => undefined;

function show(id: string): void {
  leave();
  $('outcome').hidden = true;
  const operation = operations.find(({ operationId }) => operationId === id)!;
  const before = performance.now();
  const { schema, body, method, path, contentType, send } = fromOpenApi(api, { operation: id, fetch: sending });
  const took = performance.now() - before;
  about.textContent = `${method} ${path}${contentType === undefined ? '' : `, sent as ${contentType}`}. Read in ${took.toFixed(1)} ms.`;
  place.innerHTML = policy.createHTML(toMarkup(describeSchema(schema)));
  const gate = createGate(schema, { submit: send });
  const unbind = bindForm(place.querySelector('form')!, gate, { rows: templateRows, summary: errorSummary });
  const [value] = Object.values(operation.requestBody?.content[contentType ?? '']?.examples ?? {}).map((each) => each.value);
  example.hidden = value === undefined;
  example.onclick = () => gate.set((body === schema ? value : { body: value }) as never);
  leave = () => {
    unbind();
    gate.dispose();
  };
}

/** Sends, and shows what went both ways. */
async function sending(url: string, init: RequestInit): Promise<Response> {
  const answer = await fetch(url, init);
  $('sent').textContent = `${init.method} ${url}\n${await shown(init.body)}`;
  const text = await answer.clone().text();
  $('answer').textContent = `${answer.status} ${answer.statusText}\n${JSON.stringify(JSON.parse(text), null, 2)}`;
  $('outcome').hidden = false;
  if (answer.ok) $('outcome').focus();
  return answer;
}

for (const tag of new Set(operations.flatMap(({ tags }) => tags))) {
  const all = document.createElement('optgroup');
  all.label = tag;
  for (const { operationId, summary } of operations.filter(({ tags }) => tags.includes(tag))) all.append(new Option(summary, operationId));
  chooser.append(all);
}
const asked = (): string | undefined => operations.find(({ operationId }) => `#${operationId}` === location.hash)?.operationId;
const follow = (): void => {
  chooser.value = asked() ?? operations[0]!.operationId;
  show(chooser.value);
};
chooser.addEventListener('change', () => (location.hash = chooser.value));
addEventListener('hashchange', follow);
follow();
