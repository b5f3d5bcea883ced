// Facts from outside the form: given to forms and to validations, changed, waited for.

import { setTimeout as pause } from 'node:timers/promises';
import { expect, test } from '@jest/globals';
import * as library from 'upper-gate';
import type { ContextValue, Fault, Rule } from 'upper-gate';
import { setDisabled } from 'upper-gate/binding';
import { validateRequest } from 'upper-gate/server';

const { appliesWhen, fieldRules, groupRules } = library;
const { asyncCheck, check, context, createGate, group, list, number, required, requiredWhen, text, validate, validateAsync } = library;

const maxBeam = context<number>('maxBeam');
const closed = context<readonly string[]>('closed', { fallback: [] });
const rank = context<string>('rank');

const t = (...rules: readonly Rule<string>[]) => text('Text', ...rules);
const n = (...rules: readonly Rule<number>[]) => number('Number', ...rules);

/** A fact is read by a field's own rule, by one on siblings, by a condition, by what requires, by an async rule, by one on the whole. */
const narrow = check((beam: number) => beam <= maxBeam.get(), { code: 'tooWide' });
const passage = group({
  beam: number('Beam', required(), narrow),
  lock: t(check((lock) => !closed.get().includes(lock), { code: 'closed' })),
  permit: text('Permit'),
  tug: text('Tug', required()),
  register: t(
    asyncCheck(
      async (value, { read }) => {
        await pause(1);
        return read(rank) !== value || { message: 'no', code: 'ranked' };
      },
      { debounce: 0 },
    ),
  ),
})
  .with(appliesWhen({ tug: (boat) => boat.beam > maxBeam.get() - 1 }))
  .with(fieldRules({ permit: requiredWhen((boat) => boat.lock !== undefined && closed.get().length > 0) }))
  .with(groupRules(check((boat) => boat.beam * 10 !== maxBeam.get(), { code: 'odd' })));

const all = [maxBeam.of(4), rank.of('skipper')];
const codes = (findings: readonly { path: string; code: string }[]): string[] => findings.map(({ path, code }) => `${path}: ${code}`);

test.each<[values: object, given: readonly ContextValue[], expected: string[]]>([
  [{ beam: '3' }, all, []],
  [{ beam: '5' }, all, ['beam: tooWide', 'tug: valueMissing']],
  [{ beam: '3', lock: 'Upper' }, [...all, closed.of(['Upper'])], ['lock: closed', 'permit: valueMissing']],
  [{ beam: '0.4', register: 'skipper' }, all, ['register: ranked', ': odd']],
])('the same in a validation, a request and a form: %j', async (values, given, expected) => {
  const result = await validateAsync(passage, values, { context: given });
  expect(codes(result.findings)).toEqual(expected);
  const request = { method: 'POST', url: 'http://x/', headers: { 'content-type': 'application/json' }, body: new Blob([JSON.stringify(values)]).stream() };
  expect(codes((await validateRequest(passage, request as never, { context: given, source: 'form' })).findings)).toEqual(expected);
  const gate = createGate(passage, { initial: values, context: given });
  expect(await gate.validate()).toBe(expected.length === 0);
  expect(codes(gate.findings)).toEqual(expected);
});

test('what was not given fails closed, also where a rule swallows the error', async () => {
  const needs = /reads the context "(maxBeam|rank)", which was not given/;
  expect(() => validate(passage, { beam: '3' }, { async: 'skip' })).toThrow(needs);
  await expect(validateAsync(passage, { beam: '3', register: 'x' }, { context: [maxBeam.of(4)] })).rejects.toThrow(needs);
  const trusting = group({
    beam: n(
      check(() => {
        try {
          return maxBeam.get() > 0;
        } catch {
          return true;
        }
      }),
    ),
  });
  expect(() => validate(trusting, { beam: 1 })).toThrow(needs);
  expect(await createGate(trusting, { initial: { beam: 1 } }).validate()).toBe(false);
  expect(() => validate(passage, {}, { async: 'skip', context: [4] as never })).toThrow('context: [tides.of(table)]');
  expect(() => maxBeam.get()).toThrow('outside of a rule');
  expect(() => context('')).toThrow('takes a name');
});

test('a form waits for what was not given, refuses to be submitted, and says so on the form', async () => {
  const sent: object[] = [];
  const gate = createGate(passage, { initial: { beam: 3 }, submit: (data) => void sent.push(data) });
  expect(codes(gate.findings)).toEqual([': unanswered']);
  expect(gate.root.shown).toEqual([]);
  expect(gate.field('tug').applies).toBe(false);
  expect(await gate.submit()).toMatchObject({ status: 'refused', by: 'rules', findings: [{ path: '', code: 'unanswered', params: { context: 'maxBeam' } }] });
  gate.setContext(maxBeam, 4);
  expect(await gate.submit()).toMatchObject({ status: 'accepted' });
  // An async rule waits as well.
  gate.field('register').set('skipper');
  expect(await gate.submit()).toMatchObject({ status: 'refused', findings: [{ code: 'unanswered', params: { context: 'rank' } }] });
  gate.setContext(rank, 'skipper');
  expect(await gate.submit()).toMatchObject({ status: 'refused', findings: [{ code: 'ranked' }] });
  expect(sent).toHaveLength(1);
});

test('a form runs what read a fact, and nothing else; it shows nothing that was not shown', async () => {
  const runs = new Map<string, number>();
  const ran = (name: string): boolean => runs.set(name, (runs.get(name) ?? 0) + 1).has(name);
  const fact = context('fact', { fallback: 1 });
  const schema = group({
    own: t(check(() => ran('own') && fact.get() < 5)),
    sometimes: n(check((value) => ran('sometimes') && (value < 5 || fact.get() < 5))),
    plain: t(check(() => ran('plain'))),
    rows: list('Rows', group({ name: text('Name') }).with(fieldRules({ name: check((name) => ran(`row ${name}`) && (name === 'b' || fact.get() < 5)) }))),
  });
  const gate = createGate(schema, { initial: { own: 'x', sometimes: 9, plain: 'x', rows: [{ name: 'a' }, { name: 'b' }] } });
  const change = (value: number): object => {
    runs.clear();
    gate.setContext(fact, value);
    return Object.fromEntries(runs);
  };
  expect(change(2)).toEqual({ own: 1, sometimes: 1, 'row a': 1 });
  expect(change(2)).toEqual({});
  gate.field('sometimes').set(3);
  expect(change(7)).toEqual({ own: 1, 'row a': 1 });
  expect(codes(gate.findings)).toEqual(['own: customError', 'rows.0.name: customError']);
  expect(gate.field('own').shown).toEqual([]);
  gate.list('rows').remove(0);
  setDisabled(gate.field('own'), true);
  expect(change(8)).toEqual({});
  gate.dispose();
  expect(change(1)).toEqual({});
});

test('a fact that nobody waits for any more keeps nothing from being sent', async () => {
  const gate = createGate(group({ beam: n(check((beam) => beam < 3 || maxBeam.get() > beam)), rows: list('Rows', n(check(() => maxBeam.get() > 1))) }), {
    initial: { beam: 5, rows: [1] },
  });
  expect(gate.state.valid).toBe(false);
  gate.field('beam').set(2);
  gate.list('rows').remove(0);
  expect(gate.state.valid).toBe(true);
  expect(await gate.submit()).toMatchObject({ status: 'accepted' });
});

test('each validation sees its own facts, whatever runs between, within, and after an await', async () => {
  const inner = group({ n: n(check((n) => n === maxBeam.get())) });
  const faults: Fault[] = [];
  const outer = group({
    n: n(
      check((n) => {
        const nested = validate(inner, { n: n + 1 }, { context: [maxBeam.of(n + 1)] }).ok;
        createGate(inner, { initial: { n: 1 }, context: [maxBeam.of(1)] }).set({ n: 2 });
        return nested && maxBeam.get() === n;
      }),
      asyncCheck(async (n, { read }) => {
        for (let i = 0; i < n; i += 1) {
          await pause(0);
          if (read(maxBeam) !== n) return false;
        }
        return true;
      }),
    ),
  });
  const results = await Promise.all([1, 2, 3, 4].map((n) => validateAsync(outer, { n }, { context: [maxBeam.of(n)] })));
  expect(results.map(({ ok }) => ok)).toEqual([true, true, true, true]);
  const gates = [1, 2, 3].map((n) => createGate(outer, { initial: { n }, context: [maxBeam.of(n)], onFault: (fault) => faults.push(fault) }));
  expect(await Promise.all(gates.map((gate) => gate.validate()))).toEqual([true, true, true]);
  // In an async rule it is read by `read`, so that it is known who read it.
  const late = group({ n: n(asyncCheck(() => maxBeam.get() > 0)) });
  const result = await validateAsync(late, { n: 1 }, { context: [maxBeam.of(1)], onFault: (fault) => faults.push(fault) });
  expect(codes(result.findings)).toEqual(['n: crashed']);
  expect(String(faults.at(-1)!.error)).toContain('read(maxBeam)');
});

test('an answer holds only for the facts that it was given to', async () => {
  let runs = 0;
  const gate = createGate(group({ name: t(asyncCheck((name, { read }) => (runs += 1) > 0 && read(rank) !== name, { debounce: 0 })) }), { context: [rank.of('a')] });
  gate.field('name').set('a');
  expect(await gate.validate()).toBe(false);
  gate.setContext(rank, 'b');
  expect(gate.findings).toEqual([]);
  expect(await gate.validate()).toBe(true);
  gate.setContext(rank, 'a');
  expect(await gate.validate()).toBe(false);
  expect(runs).toBe(2);
});
