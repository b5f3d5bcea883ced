// What a live form and a whole value mean by the same words: conditions, needs, order, async rules. Each case is validated in
// both, and they agree.

import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import * as library from 'upper-gate';
import type { Group } from 'upper-gate';

const { appliesWhen, fieldRules, groupRules } = library;
const { asyncCheck, check, createGate, custom, group, list, noDuplicates, number, required, requiredWhen, text, validate, validateAsync } = library;

type AnyGroup = Group<never>;
const says = (message: string, path?: string) => check(() => (path === undefined ? message : { message, path }));
const lines = (findings: readonly { path: string; code: string; message: string }[]) => findings.map(({ path, code, message }) => `${path} ${code} ${message}`);
/** What both find in a value, when nothing has happened yet and rules run at once. */
function inBoth(schema: unknown, raw: object): { gate: string[]; whole: string[] } {
  const faults = { onFault: () => undefined };
  const gate = createGate(schema as AnyGroup, { initial: raw as never, ...faults });
  return { gate: lines(gate.findings), whole: lines(validate(schema as AnyGroup, raw, faults).findings) };
}

test('conditions that read each other cost no more than their number', () => {
  const names = Array.from({ length: 26 }, (_, i) => `f${i}`);
  const values = Object.fromEntries(names.map((name) => [name, 'x']));
  let runs = 0;
  const all = group(Object.fromEntries([...names, 'switch'].map((name) => [name, text(name, says(name))])));
  // Each reads every other, in a circle of all; without the switch they read nothing.
  const schema = all.with(
    appliesWhen(
      Object.fromEntries(
        names.map((name) => [
          name,
          (siblings: Record<string, unknown>) => {
            runs += 1;
            return siblings['switch'] === 'on' && names.every((other) => other === name || siblings[other] !== 'never');
          },
        ]),
      ),
    ),
  );
  const gate = createGate(schema, { onFault: () => undefined, initial: { ...values, switch: 'off' } as never });
  const applying = () => names.filter((name) => gate.field(name as never).applies);
  expect(applying()).toEqual([]);
  runs = 0;
  gate.set({ switch: 'on' });
  expect(applying()).toEqual(names);
  expect(runs).toBeLessThan(26 * 26);
  expect(lines(gate.findings)).toEqual(lines(validate(schema, { ...values, switch: 'on' }).findings));
  // Out of the circle again, each goes by its own condition.
  gate.set({ switch: 'off' });
  expect(applying()).toEqual([]);
  expect(lines(gate.findings)).toEqual(lines(validate(schema, { ...values, switch: 'off' }).findings));
});

describe('findings have one order', () => {
  test.each<[string, unknown, object, string[] | undefined]>([
    [
      'more than 1,000 rules between fields',
      group({ a: text('A', says('own')), b: text('B') })
        .with(fieldRules({ a: Array.from({ length: 1005 }, (_, i) => says(`${i}`)) }))
        .with(groupRules(says('whole', 'a'), says('rest'))),
      { a: 'x' },
      undefined,
    ],
    [
      'own rules, those of the groups around from the inside out, then the whole',
      group({
        crew: list(
          'Crew',
          group({ name: text('Name', says('own')) })
            .with(fieldRules({ name: says('row') }))
            .with(groupRules(says('row whole', 'name'))),
          noDuplicates({ by: 'name' }),
          says('list', '0.name'),
        ),
      }).with(groupRules(says('form', 'crew.0.name'), says('last'))),
      { crew: [{ name: 'x' }, { name: 'x' }] },
      ['own', 'row', 'row whole', 'list', 'form', 'own', 'row', 'row whole', 'duplicate', 'last'],
    ],
    ['a condition that throws stands first', group({ a: text('A', says('own')) }).with(appliesWhen({ a: () => JSON.parse('{') as boolean })), { a: 'x' }, ['crashed', 'own']],
  ])('%s', (_, schema, raw, expected) => {
    const { gate, whole } = inBoth(schema, raw);
    expect(gate).toEqual(whole);
    if (expected) expect(whole.map((line) => / (crashed|duplicate) /.exec(line)?.[1] ?? line.split('customError ')[1]!)).toEqual(expected);
  });
});

test('a field that is empty though required is reported once, whoever else requires it', () => {
  const { gate, whole } = inBoth(group({ a: text('A', required()) }).with(fieldRules({ a: requiredWhen(() => true) })), {});
  expect({ gate, whole }).toEqual({ gate: whole, whole: [expect.stringContaining('a valueMissing')] });
});

test('your own kind keeps its name, whatever else is given', () => {
  expect(custom('A', { read: (raw: unknown) => raw, name: 'text', jsonType: 'string' } as never).kind).toBe('custom');
});

describe('async rules', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());

  test('what a run reads after an await counts too: it starts over when that changes', async () => {
    const runs: string[] = [];
    const schema = group({ a: text('A'), b: text('B'), rows: list('Rows', group({ n: number('N') })) }).with(
      fieldRules({
        a: asyncCheck(
          async (value, { siblings }) => {
            await new Promise((resolve) => setTimeout(resolve, 10));
            const seen = `${value} ${String(siblings.b)} ${String(siblings.rows[0]?.n)}`;
            runs.push(seen);
            return !seen.includes('bad') || 'Not with that';
          },
          { debounce: 0 },
        ),
      }),
    );
    const gate = createGate(schema, { initial: { rows: [{ n: 1 }] } });
    gate.field('a').set('x');
    await jest.advanceTimersByTimeAsync(10);
    expect({ runs, valid: gate.state.valid }).toEqual({ runs: ['x undefined 1'], valid: true });
    gate.field('b').set('bad');
    expect(gate.field('a').pending).toBe(true);
    await jest.advanceTimersByTimeAsync(10);
    expect({ runs, valid: gate.state.valid }).toEqual({ runs: ['x undefined 1', 'x bad 1'], valid: false });
    gate.field('rows.0.n').set('2');
    await jest.advanceTimersByTimeAsync(10);
    gate.field('b').set('');
    await jest.advanceTimersByTimeAsync(10);
    expect({ runs: runs.slice(2), valid: gate.state.valid }).toEqual({ runs: ['x bad 2', 'x undefined 2'], valid: true });
  });

  test.each([
    ['an error of the connection', () => new TypeError('fetch failed'), 'unanswered', 'warning'],
    ['any other rejection', () => new Error('503'), 'unanswered', 'warning'],
    ['a fault in the rule', () => new TypeError('Cannot read properties of undefined'), 'crashed', 'error'],
    ['a name that is unknown', () => new ReferenceError('x is not defined'), 'crashed', 'error'],
  ])('%s in a form: %#', async (_, error, code, severity) => {
    const failing = asyncCheck(() => Promise.reject(error()), { debounce: 0 });
    const schema = group({ a: text('A', failing) });
    const gate = createGate(schema, { onFault: () => undefined });
    gate.field('a').set('x');
    await jest.advanceTimersByTimeAsync(0);
    expect(gate.findings).toMatchObject([{ code, severity }]);
    // Whoever has the last word does not let it pass.
    expect((await validateAsync(schema, { a: 'x' })).findings).toMatchObject([{ code, severity: 'error' }]);
  });

  test('run a few at a time, and none starts after the limit or an abort', async () => {
    let now = 0;
    let most = 0;
    let started = 0;
    const slow = asyncCheck(async () => {
      started += 1;
      most = Math.max(most, (now += 1));
      await new Promise((resolve) => setTimeout(resolve, 100));
      now -= 1;
      return true;
    });
    const schema = group({ rows: list('Rows', text('Row', slow)) });
    const raw = { rows: Array.from({ length: 450 }, (_, i) => `r${i}`) };
    const few = validateAsync(schema, raw, { concurrency: 3, timeout: 1000 });
    await jest.advanceTimersByTimeAsync(1000);
    const { ok, findings } = await few;
    expect({ ok, most, started, unanswered: findings.filter(({ code }) => code === 'unanswered').length }).toEqual({ ok: false, most: 3, started: 30, unanswered: 423 });
    [most, started] = [0, 0];
    const controller = new AbortController();
    const all = validateAsync(schema, raw, { signal: controller.signal });
    await jest.advanceTimersByTimeAsync(150);
    controller.abort();
    await all;
    expect({ most, started }).toEqual({ most: 8, started: 16 });
  });
});
