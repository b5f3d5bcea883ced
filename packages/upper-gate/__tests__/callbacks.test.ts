// What callbacks have put into words, answers without an end, and values that cannot be kept. (That no callback wedges a form: drill/callbacks.mjs.)
import { expect, test } from '@jest/globals';
import * as library from 'upper-gate';
import type { Node, Rule } from 'upper-gate';
import { fieldFromAttributes } from 'upper-gate/html';
import { standardSchemaRule, type StandardSchema } from 'upper-gate/interop';
import { fromJsonSchema } from 'upper-gate/json-schema';
import { keepSaved } from 'upper-gate/saving';
import { storageOf } from './storageOf.ts';

const { asyncCheck, check, createGate, custom, group, keepDraft, mapped, range, text, validate, validateAsync } = library;
const boom = () => {
  throw new Error('boom');
};
const kept = new Map<string, string>();
const storage = storageOf(kept);
const quiet = () => new Promise((resolve) => setTimeout(resolve, 30));

test('what a callback or a server has put into words is shown as it is; who wants slots returns a code', async () => {
  const said = '{label} {min}';
  const schema: StandardSchema = { '~standard': { version: 1, vendor: 'v', validate: () => ({ issues: [{ message: said }] }) } };
  const own = () => ({ code: 'own', params: { min: 3 } });
  const asked = asyncCheck(() => Promise.resolve(said));
  const defined = library.defineRule({ name: 'r', params: {}, test: () => said, texts: { en: 'no' } });
  const answers = [check(() => said), check(() => ({ message: { en: said, de: 'x' }, params: { min: 3 } })), asked, defined(), standardSchemaRule(schema)];
  const fields = [...answers.map((rule) => text('A', rule as Rule<string>)), custom('A', { read: () => library.unreadable(said) })];
  const templates = [check(() => false, '{label}!'), check(own), check(own, '{label} {min}')].map((rule) => text('A', rule));
  const messages = { own: { own: '{label} {min}' } };
  const told = (all: readonly Node[]) => Promise.all(all.map(async (a) => (await validateAsync(group({ a }), { a: 'x' }, { messages })).findings[0]!.message));
  expect([await told(fields), await told(templates)]).toEqual([fields.map(() => said), ['A!', 'A 3', 'A 3']]);
  const gate = createGate(group({ a: text('A') }));
  gate.addFindings([{ path: 'a', message: said, params: { min: 3 } }]);
  gate.field('a').addFinding({ code: 'tooShort', message: said, params: { min: 3 } });
  expect(gate.findings.map(({ message }) => message)).toEqual([said, said]);
});

test('an answer that takes for ever to read breaks the submission down; a timer is never longer than timers can be', async () => {
  const waits: number[] = [];
  const clock = {
    now: () => new Date(NaN),
    setTimeout: (callback: () => void, ms: number) => (waits.push(ms), ms === 30_000 && setTimeout(callback)),
    clearTimeout: () => undefined,
  };
  const endless = { ok: false, status: 422, headers: { get: () => 'application/json' }, json: () => new Promise(() => undefined) };
  for (const submit of [() => Promise.resolve(endless), () => Promise.reject(endless)]) {
    const never = asyncCheck(() => true, { debounce: Infinity });
    const gate = createGate(group({ a: text('A', never) }), { submit, clock, onFault: () => undefined });
    keepDraft(gate, { key: 'k', storage, wait: Infinity });
    keepSaved(gate, { save: () => undefined, pause: 1e99 });
    gate.field('a').set('x');
    await expect(gate.submit()).rejects.toBeDefined();
    expect([gate.state.status, gate.findings.map(({ code }) => code)]).toEqual(['failed', ['failed']]);
  }
  expect(Math.max(...waits)).toBe(2 ** 31 - 1);
});

test('no time, a promise in place of a value, or one keyword for two: an error, not a pass', () => {
  const faults: string[] = [];
  const options = { now: () => new Date(NaN), onFault: ({ error }: { error: unknown }) => void faults.push(String(error)) };
  const codes = (field: Node, raw: unknown) => validate(group({ f: field }), { f: raw }, options).findings.map(({ code }) => code);
  expect(codes(library.date('F', range({ min: 'today' })), '2027-05-01')).toEqual(['crashed']);
  expect(codes(custom('F', { read: async (raw) => Promise.resolve(raw) }), 'x')).toEqual(['crashed']);
  expect(codes(mapped(text('F'), { to: async () => Promise.reject(new Error('no')), from: () => '' }), 'x')).toEqual(['crashed']);
  expect(faults.join()).toMatch(/clock has no time.*returned a promise/s);
  const [one, two] = ['one', 'two'].map((name) => library.defineRule({ name, params: {}, keyword: 'x-own', attribute: 'data-own', test: () => true, texts: { en: '' } }));
  const kinds = ['one', 'two'].map((name) => library.defineKind<string, string>({ name, json: 'string', type: 'string', format: 'own', read: String, texts: { en: '' } }));
  expect(() => fromJsonSchema({ type: 'string' }, { rules: [one!, two!] })).toThrow('"one" and "two" have the same keyword, "x-own"');
  expect(() => fromJsonSchema({ type: 'string' }, { kinds: kinds })).toThrow('the same format, "own"');
  expect(() => fieldFromAttributes({ 'data-own': '' }, 'input', { rules: [one!, two!] })).toThrow('the same attribute');
  fromJsonSchema({ type: 'string' }, { rules: [one!, one!] });
});

test('a draft keeps what can be written beside what cannot, which is reported once', async () => {
  const told: string[] = [];
  const gate = createGate(group({ a: text('A'), own: custom('Own', { read: (raw: unknown) => raw }) }), { onFault: ({ path, rule }) => void told.push(`${path}: ${rule}`) });
  const draft = keepDraft(gate, { key: 'beside', storage, wait: 1 });
  for (const raw of [5n, { toJSON: boom }]) {
    gate.set({ a: typeof raw, own: raw });
    await quiet();
  }
  expect([JSON.parse(kept.get('beside')!), told]).toMatchObject([{ edits: { a: 'object' } }, ['own: draft']]);
  draft.stop();
});
