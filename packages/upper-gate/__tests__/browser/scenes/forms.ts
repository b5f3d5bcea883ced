// The form of the scenes: the same for React and Vue.

import * as library from 'upper-gate';
import type { Gate, Node, ProblemDetails } from 'upper-gate';

const { fieldRules, groupRules, appliesWhen } = library;
const { asyncCheck, boolean, check, choice, choices, choicesFrom, date, depending, group, keepDraft, length, list, pattern, range, required, sameAs, text, variant } = library;

export const schema = group({
  name: text({ label: 'Name', hint: 'As painted' }, required()),
  again: text('Again'),
  kind: choice('Kind', ['barge', 'canoe'], required()),
  side: choice('Side', ['port', 'starboard']),
  ok: boolean('Fine'),
  crew: list('Crew', text('Member', required())),
}).with(fieldRules({ again: sameAs('name') }));

/** The same, with a rule on the whole: fields of it are forgotten on a page that has neither a line nor a summary. */
export const lost = schema.with(groupRules(check(({ name }) => name !== 'Ghost' || 'Ghosts pay twice')));
/** What the server of that page does. */
const ANSWERS: Readonly<Record<string, () => unknown>> = {
  404: () => new Response('Nothing here', { status: 404 }),
  409: () => new Response('{"title":"Taken by now"}', { status: 409, headers: { 'content-type': 'application/problem+json' } }),
  500: () => ({ status: 500 }),
  'no network': () => fetch('http://127.0.0.1:1/'),
  'a handler that throws': () => {
    throw new Error('Storm');
  },
};
export const answer = ({ name }: { readonly name: string }): unknown => ANSWERS[name]?.();

/** Two lists of one name, in an either-or. */
export const either = group({ cargo: variant('Cargo', 'load', { goods: group({ items: list('Crates', text('Crate')) }), gravel: group({ items: list('Heaps', text('Heap')) }) }) });

/** Rows within rows. */
export const nested = group({ vessel: text('Vessel'), crew: list('Crew', group({ name: text('Name'), jobs: list('Jobs', text('Job', required()), length({ min: 1 })) })) });

/** A form of many fields. */
export const many = group(Object.fromEntries(Array.from({ length: 100 }, (_, i) => [`f${i}`, text(`Field ${i}`, required())])));

/** What is waited for, once a test holds it. */
const held = (): Promise<void> | undefined => (globalThis as { held?: Promise<void> }).held;

/** A form with everything that screen readers read: hints, a counter that nobody draws, two messages, groups, rows, a field that comes and goes. */
export const heard = group({
  name: text({ label: 'Name', hint: 'As painted' }, required(), length({ min: 6, max: 20 }), pattern(/\d$/, 'Ends with a digit')),
  code: text(
    'Code',
    asyncCheck(
      async (code: string) => {
        await held();
        return code === 'OT-1' ? { message: 'OT-1 is free', severity: 'notice' } : `${code} is taken`;
      },
      { debounce: 0 },
    ),
  ),
  kit: choices({ label: 'Kit', hint: 'One at least' }, ['horn', 'lights'], required()),
  side: choice('Side', ['port', 'starboard'], required()),
  way: choice('Way', ['up', 'down']),
  tug: text('Tug'),
  crew: list({ label: 'Crew', hint: 'Two at most' }, text('Member', required()), length({ min: 1, max: 3 })),
}).with(appliesWhen({ tug: ({ way }) => way === 'up' }));

const BERTHS: Readonly<Record<string, readonly string[]>> = { Oster: ['A1', 'A2'], Wester: ['A2', 'B1'] };
/** Limits and options that depend on other fields. */
export const moving = group({
  harbour: choice('Harbour', ['Oster', 'Wester'], required()),
  berth: text('Berth', required()),
  side: text('Side'),
  kit: choices('Kit', ['horn', 'lights', 'rope']),
  day: date({ label: 'Day', hint: 'Until {max}' }),
}).with(
  fieldRules({
    berth: choicesFrom((it) => BERTHS[it.harbour]),
    side: choicesFrom((it) => (it.harbour === 'Oster' ? ['port', 'starboard'] : [{ value: 'port', label: 'Portside' }])),
    kit: choicesFrom((it) => (it.harbour === 'Oster' ? ['horn', 'lights'] : ['lights', 'rope'])),
    day: range(depending((it) => ({ max: it.harbour === 'Oster' ? '2027-05-31' : '2027-06-30' }))),
  }),
);

/** How often each component has rendered. */
export const renders: Record<string, number> = {};
export const count = (name: string): void => void (renders[name] = (renders[name] ?? 0) + 1);

/** Lets the test reach something. */
export const keep = (gate: unknown): void => void Object.assign(globalThis, { gate });

/** What the form was sent as, each time; the next answer waits for `held`. */
export const sent: string[] = [];
export type Answer = ProblemDetails & { readonly raw?: unknown };

/** An action, on a server or not. */
export async function book(before: Answer | undefined, data: FormData): Promise<Answer | undefined> {
  sent.push(`${before?.title} ${new URLSearchParams([...data] as [string, string][])}`);
  await held();
  const name = data.get('name');
  if (name === 'Storm') throw new Error('The line is down');
  return name === 'Heron' ? { title: 'Refused', errors: [{ pointer: '/name', detail: 'Heron is taken' }] } : undefined;
}

/** The name alone, as a form. */
export function formData({ name }: { readonly name: string }): FormData {
  const data = new FormData();
  data.set('name', name);
  return data;
}

/** Keeps a draft of a form. */
export function draftIn(gate: Gate<Node>): Map<string, string> {
  const kept = new Map<string, string>();
  keepDraft(gate, {
    key: 'draft',
    wait: 0,
    storage: { getItem: (key) => kept.get(key) ?? null, setItem: (key, value) => kept.set(key, value), removeItem: (key) => void kept.delete(key) },
  });
  return kept;
}
