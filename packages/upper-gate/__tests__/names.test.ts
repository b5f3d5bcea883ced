// Keys and names of any text: one way to write them in paths, wherever these are read or written.

import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { createGate, dictionary, group, keysOf, number, pathOf, required, toJsonPointer, validate } from 'upper-gate';
import { nestNames, toStandardSchema } from 'upper-gate/interop';
import { fromJsonSchema, toJsonSchema, type JsonSchema } from 'upper-gate/json-schema';
import { toMergePatch } from 'upper-gate/saving';
import { runs } from './runs.ts';

/** JSON under two keys. (An object literal would take `__proto__` for something else.) */
const under = (key: string, value: unknown): string => `{${JSON.stringify(key)}:{${JSON.stringify(key)}:${JSON.stringify(value)}}}`;
const parse = (json: string): never => JSON.parse(json) as never;
const lines = (findings: readonly { path: string; code: string }[]): string[] => findings.map(({ path, code }) => `${path} ${code}`);

test('keys become a path, and come back of it', () => {
  for (const [keys, path] of [
    [[], ''],
    [['crew', 0, 'name'], 'crew.0.name'],
    [['a.b', '', '\\'], 'a\\.b.\\e.\\\\'],
    [[''], '\\e'],
    [['\\e', 'x'], '\\\\e.x'],
  ] as const)
    expect([pathOf(keys), keysOf(path)]).toEqual([path, keys.map(String)]);
  const key = fc.oneof(fc.string(), fc.constantFrom('.', '\\', 'e', '', '..', '\\.', '\\\\e')).filter((each) => each !== '\0');
  fc.assert(
    fc.property(fc.array(key, { maxLength: 4 }), (keys) => expect(keysOf(pathOf(keys))).toEqual(keys)),
    runs(500),
  );
  for (const broken of ['\\', 'a\\', 'a..b\\', '\\x']) expect(() => keysOf(broken)).not.toThrow();
});

const KEYS = ['a.b', '', 'x\\', '\\e', '.', 'a/b~c', 'constructor', '0', 'é ú'];

test.each([...KEYS, '__proto__'])('a key of a dictionary: %j', (key) => {
  const whole = group({ each: dictionary('Each', dictionary('Tolls', group({ euros: number('Euros', required()) }))) });
  const values = (euros: unknown): string => `{"each":${under(key, { euros })}}`;
  const path = pathOf(['each', key, key, 'euros']);
  const token = `/${key.replace(/~/g, '~0').replace(/\//g, '~1')}`;
  const pointer = `/each${token}${token}/euros`;
  expect(validate(whole, parse(values('x'))).findings.map((finding) => [finding.path, toJsonPointer(finding)])).toEqual([[path, pointer]]);
  expect(toStandardSchema(whole)['~standard'].validate(parse(values('x')))).toMatchObject({
    issues: [{ path: ['each', ...[key, key].map((each) => (each === '0' ? 0 : each)), 'euros'] }],
  });
  const gate = createGate(whole, { initial: parse(values('x')) });
  expect(gate.findings.map((finding) => finding.path)).toEqual([path]);
  gate.field(path as 'each.a.b.euros').set('5');
  expect([JSON.stringify(gate.root.data), gate.findings, JSON.stringify(toMergePatch(gate))]).toEqual([values(5), [], values(5)]);
  gate.addFindings({ errors: [{ pointer, detail: 'No' }] });
  expect(gate.findings.map((finding) => finding.path)).toEqual([path]);
  expect(Object.getPrototypeOf(gate.root.data?.each)).toBe(Object.prototype);
});

test.each(KEYS)('the name of a property in a document: %j', (key) => {
  const inner = { type: 'object', properties: { [key]: { type: 'number', minimum: 3 } }, required: [key] };
  const read = fromJsonSchema({ type: 'object', properties: { [key]: inner }, required: [key] });
  const path = pathOf([key, key]);
  for (const schema of [read, fromJsonSchema(parse(JSON.stringify(toJsonSchema(read))) as JsonSchema)]) {
    expect(lines(validate(schema, parse(under(key, 1)), { source: 'json' }).findings)).toEqual([`${path} rangeUnderflow`]);
    const gate = createGate(schema, { initial: parse(under(key, '7')) });
    expect([JSON.stringify(gate.root.data), gate.has(path)]).toEqual([under(key, 7), true]);
    gate.field(path).set('1');
    expect(lines(gate.findings)).toEqual([`${path} rangeUnderflow`]);
  }
  // As the name of a control it reads as the same; but for what every object has, and what is an index.
  if (key !== 'constructor' && key !== '0') expect(JSON.stringify(nestNames([[path, '7']], { keys: 9, depth: 9, listLength: 9 }))).toBe(under(key, '7'));
});

test('`__proto__` as the name of a property: no field, but what its keywords say', () => {
  const schema = fromJsonSchema(parse('{"type": "object", "properties": {"__proto__": {"type": "number"}, "a": {"type": "number"}}}'));
  const told = (json: string) => lines(validate(schema, parse(json), { source: 'json' }).findings);
  expect([told('{"__proto__": 3, "a": 1}'), told('{"__proto__": "x"}')]).toEqual([[], ['__proto__ badInput']]);
});
