// Compiled, never run: the gate's types.
import { boolean, createGate, group, list, number, required, text, variant, type AnyGate, type Catalogue, type Handle, type ListHandle, type ListOf } from 'upper-gate';
import { defaultsOf, fromJsonSchema } from 'upper-gate/json-schema';
import { same } from './same.ts';

const schema = group({ name: text('Name', required()), beam: number('Beam'), home: group({ city: text('City'), sure: boolean('Sure') }) });
const gate = createGate(schema, {
  initial: { beam: 12, home: { city: 'Upper Gate' } },
  submit: (data, { signal }) => {
    same<typeof data, { name: string; beam: number | undefined; home: { city: string | undefined; sure: boolean } }>(true);
    same<typeof signal, AbortSignal>(true);
  },
});

const city = gate.field('home.city');
same<typeof city.raw, string>(true);
same<typeof city.data, string | undefined>(true);
const beam = gate.field('beam');
same<typeof beam.raw, string | number>(true);
gate.field('home').set({ sure: true });
void gate.validate(['name', 'home.city'], { focus: true });
// The fields of one of several steps.
declare const ofStep: readonly ['name', 'beam'] | readonly ['home'];
void gate.validate(ofStep);
gate.clearFindings(ofStep);
// @ts-expect-error one of them is none
void gate.validate({} as readonly ['name'] | readonly ['hom']);
const stop: () => void = gate.watch(
  ({ state }) => state.errorCount,
  (count) => same<typeof count, number>(true),
);
gate.on('accepted', ({ data }) => same<typeof data.name, string>(true));
void gate.submit().then((outcome) => {
  if (outcome.status === 'accepted') same<typeof outcome.data.name, string>(true);
  // @ts-expect-error only an accepted submission has data
  else void outcome.data;
});
void stop;

const market = group({ stalls: list('Stalls', group({ goods: list('Goods', text('Ware')) })), rest: text('Rest') });
const goodsOf = (goods: ListOf<typeof market, 'stalls.goods'>): string => goods.rows.map(({ handle }) => handle.raw).join();
goodsOf(createGate(market).list('stalls.0.goods'));
same<ListOf<typeof market, 'stalls.0.goods'>, ListOf<typeof market, 'stalls.goods'>>(true);
same<[ListOf<typeof market, 'rest'>, ListOf<typeof market, 'stalls.nothing'>], [never, never]>(true);
// @ts-expect-error another list
goodsOf(createGate(market).list('stalls'));

// @ts-expect-error no such field
gate.field('nmae');
// @ts-expect-error no such field further in
gate.field('home.ctiy');
// @ts-expect-error a text has no fields
gate.field('name.first');
// @ts-expect-error no such field
void gate.validate(['name', 'hom']);
// @ts-expect-error a number's control holds text, or a number
beam.set(true);
// @ts-expect-error no such field
gate.set({ nmae: 'x' });
// @ts-expect-error no such field
createGate(schema, { initial: { nmae: 'x' } });
// @ts-expect-error no such event
gate.on('acepted', () => undefined);

// A row of a database has `null` for a missing value.
createGate(schema, { initial: { name: null, beam: undefined, home: null } });
createGate(schema, { initial: undefined });
createGate(fromJsonSchema({ type: 'object', properties: {} }), { initial: defaultsOf({ type: 'object' }) });
const german: Catalogue = { locale: 'de', tooShort: 'zu kurz', own: { mine: 'meine' } };
// @ts-expect-error no such code
createGate(schema, { messages: { ...german, tooshort: 'x' } });

// What a form holds so far: the data of an invalid form lacks what is not right.
const parts = createGate(
  group({
    crew: list('Crew', group({ name: text('Name', required()) })),
    cargo: variant('Cargo', 'cargo', { none: group({}), goods: group({ tonnes: number('Tonnes', required()) }) }, required()),
  }),
);
const soFar = parts.root.data!;
same<typeof soFar.crew, { name: string | undefined }[] | undefined>(true);
const { cargo } = soFar;
if (cargo?.cargo === 'goods') {
  const { tonnes } = cargo;
  same<typeof tonnes, number | undefined>(true);
}
const crew = parts.list('crew');
same<ReturnType<typeof crew.row>['handle']['data'], { name: string | undefined } | undefined>(true);
// @ts-expect-error it is no list
gate.list('name');
// @ts-expect-error it is no list
gate.list('home');
// @ts-expect-error no such field
parts.list('crw');

// A path that is known only at run time.
declare const path: string;
// @ts-expect-error it may name no field
gate.field(path);
if (gate.has(path)) {
  gate.field(path).set('x');
  same<ReturnType<typeof gate.list<typeof path>>, ListHandle>(true);
  void gate.validate(path, { reveal: false });
}

// Components that serve all forms.
const any: AnyGate = gate;
same<ReturnType<typeof any.field>, Handle>(true);
same<ReturnType<typeof any.list>, ListHandle>(true);
any.set({ anything: 1 });
any.watch(
  ({ state }) => state.valid,
  (valid) => same<typeof valid, boolean>(true),
);
