// Compiled, never run: what must infer does, and what must not compile does not.
import * as library from 'upper-gate';
import type { DataOf, RawOf } from 'upper-gate';
import { same } from './same.ts';

const { appliesWhen, fieldRules, groupRules } = library;
const { after, asyncCheck, boolean, check, choice, date, email, group, integer, length, number, pattern, range, required, requiredWhen, sameAs, text, variant } = library;
const { validate } = library;

const address = group({ street: text('Street', required()), city: text('City') });
const form = group({
  vessel: text(
    { label: 'Vessel', trim: true },
    required(),
    length({ min: 2 }),
    check((name) => name.toUpperCase() !== 'X', 'no'),
  ),
  beam: number(
    'Beam',
    required(),
    range({ min: 0.5 }),
    check((beam) => beam.toFixed(2) !== '1.00'),
  ),
  draught: integer('Draught'),
  email: text(
    'E-mail',
    required(),
    email(),
    asyncCheck(async (address, { signal }) => address.length > 3 && !signal.aborted),
  ),
  emailAgain: text('Repeat', required()),
  callBack: boolean('Call back'),
  phone: text('Phone', pattern(/^\d+$/)),
  tug: text('Tug', required()),
  kind: choice('Kind', ['barge', 'canoe'], required()),
  side: choice('Side', ['port', 'starboard']),
  arrival: date('Arrival', range({ min: '2027-01-01' })),
  home: address,
})
  .with(appliesWhen({ tug: (boat) => boat.beam > 4 }))
  .with(
    fieldRules({
      emailAgain: sameAs('email'),
      phone: requiredWhen((boat) => boat.callBack),
      beam: [check((beam, boat) => beam < (boat.draught ?? 1)), check((beam, boat) => boat.tug === undefined || boat.tug.length > beam)],
      home: check((home) => home.street !== home.city),
    }),
  )
  .with(groupRules(check((boat) => boat.home.street.length > 1 && boat.tug?.length !== 3, 'no')));

same<
  DataOf<typeof form>,
  {
    vessel: string;
    beam: number;
    draught: number | undefined;
    email: string;
    emailAgain: string;
    callBack: boolean;
    phone: string | undefined;
    tug: string | undefined;
    kind: 'barge' | 'canoe';
    side: 'port' | 'starboard' | undefined;
    arrival: string | undefined;
    home: { street: string; city: string | undefined };
  }
>(true);
const warned = group({ a: text('A', required({ severity: 'warning' })) });
// A rule that is there only sometimes leaves the undefined in, wherever it stands; one that always is takes it out.
declare const strict: boolean;
const sometimes = group({
  alone: text('A', ...(strict ? [required()] : [])),
  first: number(
    'B',
    ...(strict ? [required(), range({ max: 5 })] : []),
    check((value) => value > 1, 'C'),
  ),
  last: choice(
    'D',
    ['p', 's'],
    check((side) => side === 'p', 'E'),
    ...(strict ? [required()] : []),
  ),
  softer: date('F', strict ? required() : required({ severity: 'warning' })),
  other: text('G', strict ? required() : email()),
  listed: integer('H', ...[required()]),
  cargo: variant('I', 'kind', { none: group({}) }, ...(strict ? [required()] : [])),
  always: text('J', ...(strict ? [email()] : []), required()),
  before: text('K', required(), ...(strict ? [email()] : [])),
  given: text('L', ...([length({ max: 9 }), required()] as const)),
});
same<
  DataOf<typeof sometimes>,
  {
    alone: string | undefined;
    first: number | undefined;
    last: 'p' | 's' | undefined;
    softer: string | undefined;
    other: string | undefined;
    listed: number;
    cargo: { kind: 'none' } | undefined;
    always: string;
    before: string;
    given: string;
  }
>(true);
same<RawOf<typeof address>, { street: string; city: string }>(true);
same<RawOf<typeof form>['kind'], '' | 'barge' | 'canoe'>(true);

same<DataOf<typeof warned>, { a: string | undefined }>(true);
const judged = validate(form, {}, { async: 'skip' });
if (judged.ok) same<typeof judged.data.beam, number>(true);
// @ts-expect-error data is there only when no error was found
void judged.data;

// @ts-expect-error a range does not fit a text
text('Name', range({ min: 3 }));
// @ts-expect-error a text has no place on a calendar, even if it looks like a date
text('Name', range({ min: '2027-05-01' }));
// @ts-expect-error a length does not fit a number
number('Beam', length({ min: 3 }));
// @ts-expect-error a pattern does not fit a boolean
boolean('Yes', pattern(/x/));
// @ts-expect-error a date range takes ISO texts
date('Arrival', range({ min: 3 }));
// @ts-expect-error a rule that reads siblings belongs into rules()
text('Again', sameAs('email'));
// @ts-expect-error no such field
form.with(fieldRules({ emailAgian: sameAs('email') }));
// @ts-expect-error no such sibling
form.with(fieldRules({ emailAgain: sameAs('emial') }));
// @ts-expect-error no such sibling
form.with(fieldRules({ phone: requiredWhen((boat) => boat.callBak) }));
// @ts-expect-error no such field
form.with(appliesWhen({ tugg: () => true }));
// @ts-expect-error under appliesWhen() it may be undefined
form.with(groupRules(check((boat) => boat.tug.length > 3)));
// @ts-expect-error the value is a number
form.with(fieldRules({ beam: check((beam) => beam.length > 3) }));
// @ts-expect-error the same type is needed: a number is never the same as a text
form.with(fieldRules({ beam: sameAs('email') }));
// @ts-expect-error no such stage
text('Name', required({ on: 'focus' }));

const stay = group({ from: date('From', required()), to: date('To'), nights: integer('Nights'), note: text('Note') });
stay.with(fieldRules({ to: [after('from'), check((to, it) => to > it.from)] }));
// @ts-expect-error a text has no before and after
stay.with(fieldRules({ note: after('from') }));
// @ts-expect-error a date does not lie after a number
stay.with(fieldRules({ to: after('nights') }));
// @ts-expect-error a message of a code that does not exist
text({ label: 'Name', messages: { tooshort: 'x' } });
text({ label: 'Name', messages: { tooShort: 'x', own: { mine: 'y' } } });
// Several clauses in one call: each sees what the ones before it have made of the data.
const three = group({ a: text('A', required()), b: number('B', required()), c: text('C') }).with(
  appliesWhen({ b: (it) => it.a === 'x' }),
  fieldRules({ c: [requiredWhen((it) => it.b === undefined), check((c, it) => c !== it.b?.toFixed(1))] }),
  groupRules(check((it) => it.b?.toFixed(1) !== it.a)),
);
same<DataOf<typeof three>, { a: string; b: number | undefined; c: string | undefined }>(true);
// @ts-expect-error under a condition it may be undefined
group({ a: text('A'), b: number('B', required()) }).with(appliesWhen({ b: (it) => it.a === 'x' }), groupRules(check((it) => it.b.toFixed(1) !== it.a)));
// @ts-expect-error an object is no clause
group({ a: text('A') }).with({ a: required() });
const lent = fieldRules<{ a: typeof address }, object>({ a: { street: required() } });
// @ts-expect-error a clause of another group
group({ b: text('B') }).with(lent);
