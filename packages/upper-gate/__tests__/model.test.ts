// The gate against a plain model, step by step, under random typing, answers, failures, submits, rows, and a world that
// changes. After every step the seven properties of its contract hold.

import { isDeepStrictEqual } from 'node:util';
import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import fc from 'fast-check';
import * as library from 'upper-gate';
import type { Gate } from 'upper-gate';

const { groupRules, appliesWhen, fieldRules } = library;
const { asyncCheck, check, createGate, group, keepDraft, length, list, noDuplicates, number, range, required, sameAs, text, validate } = library;

// (CI runs 2,000.)
const RUNS = Number(process.env['MODEL_RUNS'] ?? 50);
const STEPS = 50;

type Field = 'a' | 'b' | 'c' | 'd' | 'code' | 'world' | 'x' | 'y';
type Command =
  | { do: 'type'; field: Field; value: string }
  | { do: 'blur'; field: 'a' | 'b' | 'code' }
  | { do: 'row'; how: 'add' | 'remove' | 'move' | 'type'; at: number; to: number; value: string }
  | { do: 'answer'; which: number; fails: boolean }
  | { do: 'wait'; ms: number }
  | { do: 'submit'; server: 'accepts' | 'refuses' | 'breaks' }
  | { do: 'reply' | 'reset' | 'reload' | 'dispose' | 'throw' }
  | { do: 'forbid' | 'tab'; value: string }
  | { do: 'rebase'; a: string; rows: number };

const words = fc.constantFrom('', 'x', 'ab', 'abc', '3', '7', 'taken', 'free');
const commands = fc.oneof(
  { weight: 6, arbitrary: fc.record({ do: fc.constant('type' as const), field: fc.constantFrom('a', 'b', 'c', 'd', 'code', 'world', 'x', 'y'), value: words }) },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('blur' as const), field: fc.constantFrom('a', 'b', 'code') }) },
  {
    weight: 5,
    arbitrary: fc.record({ do: fc.constant('row' as const), how: fc.constantFrom('add', 'remove', 'move', 'type'), at: fc.nat(3), to: fc.nat(3), value: words }),
  },
  { weight: 4, arbitrary: fc.record({ do: fc.constant('answer' as const), which: fc.nat(3), fails: fc.boolean() }) },
  { weight: 3, arbitrary: fc.record({ do: fc.constant('wait' as const), ms: fc.constantFrom(1, 50, 400) }) },
  { weight: 3, arbitrary: fc.record({ do: fc.constant('submit' as const), server: fc.constantFrom('accepts', 'refuses', 'breaks') }) },
  { weight: 2, arbitrary: fc.record({ do: fc.constantFrom('reply', 'reset', 'reload', 'dispose', 'throw') }) },
  { weight: 2, arbitrary: fc.record({ do: fc.constantFrom('forbid', 'tab'), value: words }) },
  { weight: 1, arbitrary: fc.record({ do: fc.constant('rebase' as const), a: words, rows: fc.nat(2) }) },
) as fc.Arbitrary<Command>;

beforeEach(() => void jest.useFakeTimers());
afterEach(() => void jest.useRealTimers());

/** A question that the network has been asked, and has not been answered. */
interface Asked {
  readonly value: string;
  readonly signal: AbortSignal;
  readonly answer: (fails: boolean) => void;
  open: boolean;
}

/** The answer of the register for a code. */
const verdictOn = (code: string): string | true => code !== 'taken' || 'Taken';

/** As `expect(actual).toEqual(expected)`, but quick if they are equal: it runs hundreds of thousands of times. */
function same(actual: unknown, expected: unknown): void {
  if (!isDeepStrictEqual(actual, expected)) expect(actual).toEqual(expected);
}

class World {
  readonly ran: string[] = [];
  readonly asked: Asked[] = [];
  readonly store = new Map<string, string>();
  /** The codes whose answers the form has. */
  readonly known = new Set<string>();
  readonly schema = this.#declare();
  gate = this.#open();
  // The model: what the controls hold, and what they would go back to.
  initial = { a: 'ab', rows: ['r'] };
  /** A variable outside the form, which a rule reads; and whether that rule has run since it changed. */
  forbidden = 'x';
  fresh = true;
  /** Whether the async rule of the pair may have run: initial values are not asked about. */
  paired = false;
  /** Whether every listener throws. */
  throws = false;
  /** What another tab has kept in the draft. */
  tab: string | undefined;
  /** Whether this page has restored that, and so edits it itself. */
  ownsTab = false;
  /** What counts as saved: the initial values, or what was accepted last. */
  saved = { a: 'ab', rows: ['r'] };
  raw = this.#start();
  /** The server's findings that are still to be seen. */
  server = new Set<string>();
  sending: { readonly saved: World['saved']; readonly data: unknown; readonly reply: (how: string) => void } | undefined;
  how = 'accepts';
  /** What the controls held when the submit began. */
  submitted: unknown;

  #start() {
    return { a: 'ab', b: '', c: '', d: '', code: '', world: '', tab: '', x: 'l', y: 'r', rows: ['r'] };
  }

  #declare() {
    const note = (name: string): boolean => this.ran.push(name) > 0;
    const noted = (name: string) => check(() => note(name));
    const ask = (value: string, { signal }: { signal: AbortSignal }): Promise<true | string> =>
      new Promise((resolve, reject) => {
        const asked: Asked = {
          value,
          signal,
          open: true,
          answer: (fails) => {
            asked.open = false;
            if (fails) return reject(new Error('net'));
            if (!signal.aborted) this.known.add(value);
            resolve(verdictOn(value));
          },
        };
        this.asked.push(asked);
      });
    const allowed = check((value: string) => value !== this.forbidden);
    return group({
      a: text('A', required(), length({ min: 2 }), noted('a')),
      b: number('B', range({ max: 5 }), noted('b')),
      c: text('C'),
      d: text('D', required(), noted('d')),
      world: text('World', allowed),
      tab: text('Tab'),
      pair: group({ x: text('X'), y: text('Y') }).with(
        groupRules(
          asyncCheck(
            async (pair) => {
              const { x } = pair;
              await Promise.resolve();
              // Read after an `await`: it counts all the same.
              return x !== pair.y || { path: 'y', message: 'Same' };
            },
            { debounce: 0 },
          ),
        ),
      ),
      code: text('Code', asyncCheck(ask, { debounce: 100, timeout: 300 })),
      rows: list('Rows', group({ name: text('Name', required(), noted('name')) }), length({ max: 3 }), noDuplicates({ by: 'name' })),
    })
      .with(appliesWhen({ d: (all) => (all.b ?? 0) > 4 }))
      .with(fieldRules({ c: [sameAs('a'), check((_, all) => note('c') && all.a !== '')], b: check((b, all) => note('b of rows') && b !== all.rows.length) }));
  }

  #open() {
    const gate = createGate(this.schema, {
      initial: { a: 'ab', pair: { x: 'l', y: 'r' }, rows: [{ name: 'r' }] },
      onFault: () => undefined,
      submit: (data) => {
        // Property 2: what is sent was validated in exactly that form.
        expect(validate(this.schema, this.raws(), { async: 'skip' })).toEqual(expect.objectContaining({ ok: true, data }));
        // And nothing is sent that the user did not submit.
        same(this.raws(), this.submitted);
        return new Promise((resolve, reject) => {
          this.sending = {
            saved: { a: this.raw.a, rows: [...this.raw.rows] },
            data,
            reply: (how) => {
              if (how === 'accepts') resolve('booked');
              else if (how === 'breaks') reject(new Error('boom'));
              else
                resolve({
                  title: 'No',
                  status: 409,
                  errors: [
                    { pointer: '/a', detail: 'server', code: 'server' },
                    { detail: 'server', code: 'server' },
                  ],
                });
            },
          };
        });
      },
    });
    const storage = {
      getItem: (key: string) => this.store.get(key) ?? null,
      setItem: (key: string, value: string) => {
        this.store.set(key, value);
      },
      removeItem: (key: string) => void this.store.delete(key),
    };
    keepDraft(gate, { storage, key: 'draft', wait: 0 });
    const listener = (): void => {
      if (this.throws) throw new Error('listener');
    };
    gate.subscribe(listener);
    gate.field('a').subscribe(listener);
    for (const event of ['submit', 'accepted', 'refused', 'pass', 'fail'] as const) gate.on(event, listener);
    return gate;
  }

  raws() {
    const { rows, x, y, ...fields } = this.raw;
    return { ...fields, pair: { x, y }, rows: rows.map((name) => ({ name })) };
  }

  #edit(field: string, isRebase = false): void {
    this.server.delete(field);
    // A rebase keeps the findings of the form as a whole.
    if (!isRebase) this.server.delete('');
  }

  async run(command: Command): Promise<void> {
    const { gate, raw } = this;
    this.ran.length = 0;
    if (command.do === 'type') {
      const { field, value } = command;
      const before = raw[field];
      gate.field(field === 'x' || field === 'y' ? `pair.${field}` : field).set(value);
      if (field === 'x' || field === 'y') this.paired = true;
      if (field === 'world' && before !== value) this.fresh = true;
      if (before !== value) {
        raw[field] = value;
        this.#edit(field);
      }
      // Property 3: an edit runs only the rules that read what changed.
      const readers: string[] = { a: ['a', 'c'], b: ['b', 'b of rows', 'd'], c: ['c'], d: ['d'], code: [], world: [], x: [], y: [] }[field];
      expect(this.ran.filter((name) => !readers.includes(name))).toEqual([]);
    } else if (command.do === 'blur') {
      gate.field(command.field).leave();
    } else if (command.do === 'row') {
      this.#row(command);
    } else if (command.do === 'answer') {
      // Late ones too: answers for an old value may still arrive.
      const open = this.asked.filter((asked) => asked.open);
      open[command.which % Math.max(1, open.length)]?.answer(command.fails);
    } else if (command.do === 'wait') {
      await jest.advanceTimersByTimeAsync(command.ms);
    } else if (command.do === 'submit') {
      const under = ['checking', 'sending'].includes(gate.state.status);
      this.how = command.server;
      if (!under) {
        this.server.clear();
        this.submitted = structuredClone(this.raws());
        this.fresh = true;
        this.paired = true;
      }
      void gate.submit().catch((error: unknown) => expect(String(error)).toBe('Error: boom'));
    } else if (command.do === 'reply') {
      const { sending } = this;
      this.sending = undefined;
      if (sending) {
        if (this.how === 'accepts') this.saved = sending.saved;
        if (this.how === 'refuses') {
          // A finding is about the value that was sent: it counts where that is there (again).
          if (this.raw.a === sending.saved.a) this.server.add('a');
          this.server.add('');
        }
        sending.reply(this.how);
      }
    } else if (command.do === 'reset') {
      gate.reset();
      this.known.clear();
      this.sending = undefined;
      Object.assign(raw, this.#start(), { a: this.initial.a, rows: [...this.initial.rows] });
      this.fresh = true;
      this.paired = false;
      this.server.clear();
      this.saved = { a: this.initial.a, rows: [...this.initial.rows] };
    } else if (command.do === 'rebase') {
      this.#rebase(command);
    } else if (command.do === 'throw') {
      this.throws = !this.throws;
    } else if (command.do === 'forbid') {
      this.forbidden = command.value;
      this.fresh = false;
    } else if (command.do === 'tab') {
      const { edits } = JSON.parse(this.store.get('draft') ?? '{"edits":{}}') as { edits: object };
      if (!this.ownsTab) this.tab = command.value;
      this.store.set('draft', JSON.stringify({ at: Date.now(), edits: { ...edits, tab: command.value } }));
    } else {
      await this.#reload(command.do === 'dispose');
    }
    await jest.advanceTimersByTimeAsync(0);
  }

  #row({ how, at, to, value }: Extract<Command, { do: 'row' }>): void {
    const { rows } = this.raw;
    const live = this.gate.list('rows');
    if (how === 'add' && rows.length < 5) {
      live.add({ name: value }, Math.min(at, rows.length));
      rows.splice(Math.min(at, rows.length), 0, value);
    } else if (how === 'remove' && at < rows.length) {
      live.remove(at);
      rows.splice(at, 1);
    } else if (how === 'move' && at < rows.length && to < rows.length) {
      live.move(at, to);
      rows.splice(to, 0, ...rows.splice(at, 1));
    } else if (how === 'type' && at < rows.length) {
      const same = rows[at] === value;
      live.rows[at]!.field('name').set(value);
      rows[at] = value;
      if (!same) this.#edit('rows');
      return;
    } else return;
    this.#edit('rows');
  }

  /** New values from outside; only where nothing was edited do they show. Lists are compared as a whole, to keep the model plain. */
  #rebase({ a, rows }: Extract<Command, { do: 'rebase' }>): void {
    const names = Array.from({ length: rows }, (_, i) => `w${i}`);
    const rowsClean = isDeepStrictEqual(this.raw.rows, this.saved.rows);
    const aClean = this.raw.a === this.saved.a;
    this.gate.rebase(rowsClean ? { a, rows: names.map((name) => ({ name })) } : { a });
    this.initial = { a, rows: rowsClean ? names : this.initial.rows };
    this.saved = { a, rows: rowsClean ? names : this.saved.rows };
    if (aClean && this.raw.a !== a) {
      this.raw.a = a;
      this.#edit('a', true);
    }
    if (rowsClean) {
      if (String(names) !== String(this.raw.rows)) this.#edit('rows', true);
      this.raw.rows = [...names];
    }
    // It is checked, and sent, as it is by then: that is no edit of the user's.
    if (this.gate.state.status === 'checking') this.submitted = structuredClone(this.raws());
  }

  /** The page is loaded again: what was edited is there again, from the draft. */
  async #reload(atOnce: boolean): Promise<void> {
    if (!atOnce) await jest.advanceTimersByTimeAsync(1);
    const { gate } = this;
    gate.dispose();
    const accepted = !this.store.has('draft');
    // Property 8: after that nothing runs, asks, sends or waits.
    this.ran.length = 0;
    const { length: asked } = this.asked;
    gate.field('a').set('late');
    expect([await gate.validate(), (await gate.submit()).status, gate.field('a').raw]).toEqual([false, 'interrupted', this.raw.a]);
    expect([this.ran, this.asked.length - asked]).toEqual([[], 0]);
    this.fresh = true;
    this.tab = undefined;
    this.known.clear();
    this.sending = undefined;
    this.gate = this.#open();
    this.server.clear();
    this.initial = { a: 'ab', rows: ['r'] };
    this.saved = { a: 'ab', rows: ['r'] };
    const kept = accepted ? {} : (JSON.parse(this.store.get('draft')!) as { edits: Record<string, unknown> }).edits;
    const rows = kept['rows'] as { name: string }[] | undefined;
    const { 'pair.x': x = 'l', 'pair.y': y = 'r', ...others } = kept;
    this.ownsTab = 'tab' in kept;
    this.paired = 'pair.x' in kept || 'pair.y' in kept;
    const expected = { ...this.#start(), ...others, x, y, rows: rows?.map(({ name }) => name) ?? ['r'] };
    // Property 5: only what nobody had edited may differ from what was there before.
    if (!accepted) for (const [field, value] of Object.entries(kept)) if (!['rows', 'tab'].includes(field)) expect(value).toBe(this.raw[field.replace('pair.', '') as 'a']);
    Object.assign(this.raw, expected);
  }

  check(): void {
    const { gate, raw } = this;
    // Property 5: no raw value is lost.
    same(gate.root.raw, this.raws());
    // Properties 1 and 4: the findings are those of the current value, as when it is validated as a whole ...
    const held = gate.findings.filter(({ code }) => code !== 'failed');
    // A submission that broke down says so, and is no part of what the form holds.
    same(gate.findings.length - held.length, gate.state.status === 'failed' ? 1 : 0);
    const network = held.filter(({ path, code }) => path === 'code' && code !== 'server');
    const isCompared = ({ path }: { path: string }): boolean => !path.startsWith('pair') && (this.fresh || path !== 'world');
    same(
      held.filter((finding) => finding.code !== 'server' && !network.includes(finding) && isCompared(finding)),
      validate(this.schema, this.raws(), { async: 'skip' }).findings.filter(isCompared),
    );
    // The answer about the pair is there at once, on the field that it names.
    same(
      held.filter(({ path }) => path.startsWith('pair')).map(({ path }) => path),
      this.paired && raw.x === raw.y ? ['pair.y'] : [],
    );
    // What another tab has kept stays.
    if (this.tab !== undefined) same((JSON.parse(this.store.get('draft')!) as { edits: { tab: string } }).edits.tab, this.tab);
    // ... and of the network: the answer to the current value, or that there was none.
    const code = gate.field('code');
    const verdict = verdictOn(raw.code);
    // Only the last question says that none came.
    for (const { code: what, message } of network) same(what === 'unanswered' ? this.asked.at(-1)?.value : message, what === 'unanswered' ? raw.code : 'Taken');
    if (network.some(({ code: what }) => what === 'customError')) same(verdict, 'Taken');
    if (code.pending) same(network, []);
    else if (raw.code === 'taken' && this.known.has('taken'))
      same(
        network.map(({ code: what }) => what),
        ['customError'],
      );
    // Property 6: at most one run in flight.
    expect(this.asked.filter(({ signal, open }) => open && !signal.aborted).length).toBeLessThanOrEqual(1);
    // The server's findings stay until their field is edited.
    same(new Set(held.filter((finding) => finding.code === 'server').map(({ path }) => path)), this.server);
    this.#checkForm(gate as unknown as Gate<never>, held.length);
  }

  /** Property 7: what the form says is the sum over its fields. */
  #checkForm(gate: Gate<never>, found: number): void {
    const fields = ['a', 'b', 'c', 'd', 'code', 'world', 'tab', 'pair', 'pair.x', 'pair.y', 'rows', ...this.raw.rows.map((_, i) => `rows.${i}.name`)].map((path) =>
      gate.field(path as never),
    );
    const { state } = gate;
    same(state.errorCount, gate.findings.filter(({ severity, code }) => severity === 'error' && code !== 'failed').length);
    same(state.valid, state.errorCount === 0);
    same(
      state.pending,
      fields.some(({ pending }) => pending),
    );
    same(
      state.dirty,
      fields.some(({ dirty }) => dirty),
    );
    same(
      state.touched,
      fields.some(({ touched }) => touched),
    );
    // What differs from the saved values, by what it reads as, is dirty: a part of the contract of drafts and of `changes`.
    same([gate.field('a' as never).dirty, gate.field('rows' as never).dirty], [this.raw.a !== this.saved.a, !isDeepStrictEqual(this.raw.rows, this.saved.rows)]);
    // Nothing is found anywhere but on the fields and on the form.
    same(fields.flatMap(({ findings }) => findings).length + gate.root.findings.filter(({ code }) => code !== 'failed').length, found);
    same(state.status === 'sending', this.sending !== undefined);
  }
}

test('the gate keeps its contract', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(commands, { minLength: STEPS, maxLength: STEPS, size: 'max' }), async (steps) => {
      const world = new World();
      world.check();
      for (const step of steps) {
        await world.run(step);
        world.check();
      }
      world.gate.dispose();
      jest.clearAllTimers();
    }),
    { numRuns: RUNS },
  );
}, 300_000);
