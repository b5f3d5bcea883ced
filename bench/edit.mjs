// P14, P15: the cost of one edit, and of a rule that reads it. They run in a separate process: after edits in forms of other
// kinds engines optimise less, as the last row shows.
import { check, choice, createGate, fieldRules, group, length, list, number, range, required, text, variant } from 'upper-gate';
import { compare, report } from './rounds.mjs';

const words = ['Otter', 'Heron'];

/** The least that holds a text with two rules: value, verdict, a count of errors, listeners. */
function minimalStore() {
  const listeners = new Set();
  const store = { value: '', code: undefined, errors: 0 };
  const verdictOn = (value) => (value === '' ? 'valueMissing' : value.length < 2 ? 'tooShort' : value.length > 20 ? 'tooLong' : undefined);
  return {
    store,
    set(raw) {
      if (raw === store.value) return;
      store.value = raw;
      const code = verdictOn(raw.trim());
      if (code !== store.code) store.errors += (code ? 1 : 0) - (store.code ? 1 : 0);
      store.code = code;
      for (const listener of listeners) listener();
    },
  };
}
const plain = createGate(group({ a: text('A', required(), length({ min: 2, max: 20 })) })).field('a');
const bare = minimalStore();
const plainEdit = (i) => plain.set(words[i % 2]);
const againstBare = () => compare(plainEdit, (i) => bare.set(words[i % 2]));
report('P14', 'an edit of a plain field, against a minimal store written by hand', againstBare(), 5);

const crossed = createGate(
  group({ a: text('A', required(), length({ min: 2, max: 20 })), b: text('B') }).with(fieldRules({ b: check((b, all) => b !== all.a) })),
  { initial: { b: 'Teal' } },
).field('a');
report(
  'P15',
  'an edit that one cross-field rule reads, against one that none does',
  compare((i) => crossed.set(words[i % 2]), plainEdit),
  3.5,
);

const others = createGate(
  group({
    beam: number('Beam', required(), range({ min: 1, max: 100 })),
    kind: choice('Kind', ['barge', 'canoe'], required()),
    crew: list('Crew', group({ name: text('Name', required()) })),
    cargo: variant('Cargo', 'cargo', { none: group({}), goods: group({ tonnes: number('Tonnes', required()) }) }),
  }),
  { initial: { crew: [{ name: 'Otter' }], cargo: { cargo: 'goods' } } },
);
const edits = { beam: ['3', '500'], kind: ['barge', 'canoe'], 'crew.0.name': words, 'cargo.tonnes': ['1', 'x'] };
for (const [path, [one, other]] of Object.entries(edits)) for (let i = 0; i < 20_000; i += 1) others.field(path).set(i % 2 ? one : other);
report('P14', 'an edit of a plain field, after edits in a form of many kinds', againstBare(), 8);
