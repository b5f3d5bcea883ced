// Compiled, never run: the types of every kind.
import * as library from 'upper-gate';
import type { DataOf, FileLike, RawOf } from 'upper-gate';
import { same } from './same.ts';

const { fieldRules, groupRules, after, before, cardNumber, check, choice, choices, color, createGate, custom, date, dateTime, differsFrom, email, file, files, fileSize } = library;
const { fileType, group, integer, interval, ipAddress, length, list, month, mustBeTrue, boolean, noDuplicates, number, oneOf, range, required, step } = library;
const { text, time, unreadable, url, validate, variant, week } = library;

const member = group({ name: text('Name', required()), age: integer('Age', range({ min: 0, max: 120 })) });
const position = custom(
  'Position',
  { read: (raw: unknown) => (typeof raw === 'string' ? Number(raw) : unreadable()), empty: '' },
  required(),
  check((km) => km.toFixed(1) !== '0.0'),
);
const form = group({
  kit: choices('Kit', ['horn', 'lights'], required(), length({ min: 1 })),
  side: choice('Side', [{ value: 'p', label: 'Port' }, 's'], required()),
  hull: color('Hull'),
  at: time('At', range({ min: '07:00', step: 900 })),
  when: dateTime('When', required()),
  season: month('Season', range({ min: '2027-03' })),
  week: week('Week'),
  paper: file('Paper', fileSize({ max: 10 }), fileType('.pdf')),
  photos: files('Photos', length({ max: 3 }), fileType('image/*')),
  stay: interval('Stay', date('From', required()), date('To', required())),
  crew: list('Crew', member, length({ max: 12 }), noDuplicates({ by: 'name' })),
  grid: list('Grid', list('Row', number('Cell', required()))),
  terms: boolean('Terms', mustBeTrue()),
  site: text('Site', url({ schemes: ['https'] }), oneOf(['https://a.example'])),
  gauge: text('Gauge', ipAddress({ version: 4 })),
  card: text('Card', cardNumber()),
  mail: text('Mail', email({ dot: true })),
  toll: number('Toll', step(0.5), oneOf([1, 2])),
  position,
  cargo: variant('Cargo', 'cargo', { none: group({}), goods: group({ tonnes: number('Tonnes', required()), permit: text('Permit') }) }, required()),
  maybe: variant('Maybe', 'kind', { a: group({ x: text('X') }) }),
})
  .with(
    fieldRules({
      week: differsFrom('season'),
      at: check((at, all) => at.length > (all.stay.from.length as number)),
      toll: after('position', { orSame: true }),
      crew: check((crew, all) => crew.every(({ name }) => name !== all.mail)),
      cargo: check((cargo) => (cargo.cargo === 'goods' ? cargo.tonnes < 10 : true)),
    }),
  )
  .with(groupRules(check((all) => all.crew.length < 3 || [{ path: 'crew.0.name', message: 'No' }])));

type Form = DataOf<typeof form>;
same<Form['kit'], readonly ('horn' | 'lights')[]>(true);
same<Form['side'], 'p' | 's'>(true);
same<Form['paper'], FileLike | undefined>(true);
same<Form['photos'], readonly FileLike[]>(true);
same<Form['stay'], { from: string; to: string }>(true);
same<Form['crew'], { name: string; age: number | undefined }[]>(true);
same<Form['grid'], number[][]>(true);
same<Form['position'], number>(true);
same<Form['cargo'], { cargo: 'none' } | { cargo: 'goods'; tonnes: number; permit: string | undefined }>(true);
same<Form['maybe'], { kind: 'a'; x: string | undefined } | undefined>(true);
same<RawOf<typeof form>['crew'], { name: string; age: string | number }[]>(true);

const gate = createGate(form);
const age = gate.field('crew.0.age');
same<typeof age.data, number | undefined>(true);
const cell = gate.field('grid.1.2');
same<typeof cell.data, number | undefined>(true);
const tonnes = gate.field('cargo.tonnes');
same<typeof tonnes.raw, string | number>(true);
const crew = gate.list('crew');
const name = crew.add({ name: 'Ann' }).field('name');
same<typeof name.data, string | undefined>(true);
const judged = validate(form, {});
if (judged.ok && judged.data.cargo.cargo === 'goods') same<typeof judged.data.cargo.tonnes, number>(true);

// @ts-expect-error no such field in a row
gate.field('crew.0.nmae');
// @ts-expect-error a list goes by index
gate.field('crew.first.name');
// @ts-expect-error no such field in any case
gate.field('cargo.tons');
// @ts-expect-error no list there
gate.list('mail').add();
// @ts-expect-error no such field in a row
crew.add({ nmae: 'Ann' });
// @ts-expect-error no such field in a row
list('Crew', member, noDuplicates({ by: 'nmae' }));
// @ts-expect-error a file size does not fit a text
text('Paper', fileSize({ max: 3 }));
// @ts-expect-error an e-mail rule does not fit a number
number('Mail', email());
// @ts-expect-error a text has no steps
text('Toll', step(2));
// @ts-expect-error a number is not one of these
number('Toll', oneOf(['a']));
// @ts-expect-error ticking does not fit a text
text('Terms', mustBeTrue());
// @ts-expect-error a date and a number
interval('Stay', date('From'), number('To'));
// @ts-expect-error no such sibling
form.with(fieldRules({ toll: before('positoin') }));
// @ts-expect-error not every case has tonnes
form.with(fieldRules({ cargo: check((cargo) => cargo.tonnes < 3) }));
// @ts-expect-error no such case
form.with(fieldRules({ cargo: check((cargo) => cargo.cargo === 'sand') }));
// @ts-expect-error duplicates are a matter of lists
text('Name', noDuplicates());
