// Compiled, never run: rules and conditions on fields further in.
import * as library from 'upper-gate';
import type { DataOf } from 'upper-gate';
import { same } from './same.ts';

const { appliesWhen, fieldRules, asyncCheck, boolean, check, choice, createGate, group, list, number, required, requiredWhen, sameAs, text, variant } = library;

const member = group({ name: text('Name', required()), role: choice('Role', ['skipper', 'deckhand'], required()), permit: text('Permit', required()), length: number('Height') });
const passage = group({
  dangerous: boolean('Dangerous cargo'),
  country: text('Country', required()),
  home: group({ street: text('Street'), country: text('Country'), zip: text('Postcode', required()) }),
  crew: list('Crew', member),
  berths: list('Rows', list('Berths', group({ name: text('Name', required()), side: text('Side') }))),
  cargo: variant('Cargo', 'cargo', { none: group({}), goods: group({ tonnes: number('Tonnes', required()), kind: text('Kind') }) }, required()),
});

const whole = passage
  .with(
    appliesWhen({
      dangerous: (boat) => boat.crew.length > 0,
      home: { zip: (boat, home) => boat.country === 'NL' && home.street !== '' },
      crew: { permit: (boat, one) => boat.dangerous && one.role === 'skipper', length: (_, one) => one.name !== '' },
      berths: { side: (boat) => boat.crew[0]?.permit === undefined },
      cargo: { goods: { kind: (boat, goods) => goods.tonnes > 3 && boat.dangerous, tonnes: (boat) => !boat.dangerous } },
    }),
  )
  .with(
    fieldRules({
      country: check((country, boat) => country !== boat.home.zip),
      home: { zip: [requiredWhen((boat, home) => boat.country === home.country), check((zip, boat) => zip !== boat.country)], street: sameAs('country') },
      crew: { permit: asyncCheck(async (permit, { siblings, beside }) => permit !== beside.name && siblings.dangerous !== false) },
      berths: { name: check((name, boat, berth) => name !== berth.side && name !== boat.country) },
      cargo: { goods: { tonnes: check((tonnes, boat, goods) => tonnes.toFixed(1) !== goods.kind && boat.dangerous !== true) } },
    }),
  )
  .with(fieldRules({ crew: [check((crew) => crew.length < 9)] }))
  .with(fieldRules({ cargo: { goods: { kind: check((kind, _, goods) => goods.tonnes !== undefined && kind !== '') } } }));

same<
  DataOf<typeof whole>,
  {
    dangerous: boolean | undefined;
    country: string;
    home: { street: string | undefined; country: string | undefined; zip: string | undefined };
    crew: { name: string; role: 'skipper' | 'deckhand'; permit: string | undefined; length: number | undefined }[];
    berths: { name: string; side: string | undefined }[][];
    cargo: { cargo: 'none' } | { cargo: 'goods'; tonnes: number | undefined; kind: string | undefined };
  }
>(true);
// A part, and something in it, both under conditions.
const both = group({ on: boolean('On'), home: group({ zip: text('Zip', required()) }) })
  .with(appliesWhen({ home: { zip: (it) => it.on } }))
  .with(appliesWhen({ home: (it) => it.home.zip !== 'x' }));
same<DataOf<typeof both>, { on: boolean; home: { zip: string | undefined } | undefined }>(true);
createGate(whole).field('crew.0.permit').data satisfies string | undefined;

// @ts-expect-error no such field
passage.with(fieldRules({ home: { zipp: check(() => true) } }));
// @ts-expect-error no such field in a row
passage.with(fieldRules({ crew: { nme: check(() => true) } }));
// @ts-expect-error no such case
passage.with(fieldRules({ cargo: { god: { tonnes: check(() => true) } } }));
// @ts-expect-error no such field
passage.with(appliesWhen({ home: { zipp: () => true } }));
// @ts-expect-error no such field, beside one that exists
passage.with(appliesWhen({ home: { zip: () => true, zipp: () => true } }));
// @ts-expect-error no such field, beside one that exists
passage.with(appliesWhen({ dangerous: () => true, dangerouss: () => true }));
// @ts-expect-error a text has nothing further in
passage.with(appliesWhen({ country: { zip: () => true } }));
// @ts-expect-error no such field in the group that declares it
passage.with(fieldRules({ crew: { permit: requiredWhen((boat) => boat.dangeros) } }));
// @ts-expect-error no such field beside it
passage.with(fieldRules({ crew: { permit: requiredWhen((boat, one) => one.rol === 'skipper') } }));
// @ts-expect-error the value is a text
passage.with(fieldRules({ crew: { permit: check((permit) => permit.toFixed() === '') } }));
// @ts-expect-error it has no sibling of that name
passage.with(fieldRules({ crew: { permit: sameAs('name') } }));

// Limits and options that depend on other fields.
const { choices, choicesFrom, asyncChoicesFrom, context, date, depending, integer, length, oneOf, range, step } = library;
const limits = context<{ max: number }>('limits');
const boat = group({
  kind: choice('Kind', ['barge', 'canoe'], required()),
  weight: number('Weight'),
  crew: list('Crew', member),
  berth: text('Berth'),
  pier: integer('Pier'),
  day: date('Day'),
  kit: choices('Kit', ['horn', 'lights']),
});
boat.with(
  fieldRules({
    weight: [range(depending((it) => ({ max: it.kind === 'barge' ? 300 : 1 }))), step(depending((it) => (it.kind === 'barge' ? 5 : 0.5))), range(depending(() => limits.get()))],
    crew: length(depending((it) => ({ max: it.kind === 'barge' ? 12 : 3 }))),
    berth: choicesFrom((it) => (it.kind === 'barge' ? ['A1'] : [{ value: 'B1', label: 'B 1' }])),
    pier: [oneOf(depending((it) => (it.kind === 'barge' ? [1, 2] : undefined))), asyncChoicesFrom(async ({ siblings }) => (siblings.kind === 'barge' ? [1] : [2]))],
    day: range(depending((it) => ({ min: it.kind === 'barge' ? 'today' : '2027-05-01' }))),
    kit: choicesFrom(() => ['horn']),
  }),
);
limits.of({ max: 3 });
boat.with(fieldRules({ crew: { role: choicesFrom((it, one) => (it.kind === 'barge' && one.name !== '' ? ['skipper'] : [])) } }));
// @ts-expect-error it is a number
limits.of({ max: '3' });
// @ts-expect-error a number has no text limits
boat.with(fieldRules({ weight: range(depending(() => ({ max: '2027-05-01' }))) }));
// @ts-expect-error no such sibling
boat.with(fieldRules({ weight: range(depending((it) => ({ max: it.wight as number }))) }));
const piers = choicesFrom(() => [1, 2]);
// @ts-expect-error a text is not chosen from numbers
boat.with(fieldRules({ berth: piers }));
const byKind = range(depending((it: { kind: string }) => ({ max: it.kind.length })));
// @ts-expect-error a function of siblings belongs into rules()
number('Weight', byKind);
const chambers = group({ chamber: choice('Chamber', [1, 2]), open: choice('Open', [true, false], required()), days: choices('Days', [1, 7]) });
same<DataOf<typeof chambers>, { chamber: 1 | 2 | undefined; open: boolean; days: readonly (1 | 7)[] }>(true);
