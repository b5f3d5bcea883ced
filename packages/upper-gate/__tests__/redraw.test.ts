// Pages that a server draws again: whatever was sent comes out as text, and nothing is given back that must not be.

import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { parse } from 'parse5';
import { boolean, choice, choices, createGate, dictionary, file, group, list, number, required, text } from 'upper-gate';
import { partsOf } from 'upper-gate/binding';
import { redrawForm, type RedrawOptions } from 'upper-gate/server';

const schema = group({
  vessel: text({ label: 'Vessel', hint: 'As <painted>' }),
  remarks: text('Remarks'),
  kind: choice('Kind', ['barge', 'canoe']),
  kit: choices('Kit', ['horn', 'lights']),
  ok: boolean('Fine'),
  paper: file('Paper'),
  secret: text('Secret'),
  token: text('Token'),
  hush: text({ label: 'Hush', private: true }),
  crew: list('Crew', group({ name: text('Name'), skills: list('Skills', text('Skill')) })),
});
const page = `<!doctype html><html><head><title>Book</title></head><body><form id="other"><input name="vessel"></form><form id="f">
<section data-gate-summary hidden></section><p data-gate-messages></p>
<label for="v">Vessel</label><input id="v" name="vessel" aria-describedby="own"><i data-gate-hint="vessel"></i><b data-gate-messages="vessel"></b>
<textarea name="remarks">old</textarea><select name="kind"><option></option><option>barge</option><option value="canoe">Canoe</option></select>
<fieldset><input type="checkbox" name="kit" value="horn" checked><input type="checkbox" name="kit" value="lights"></fieldset><input type="checkbox" name="ok">
<input type="file" name="paper"><input type="password" name="secret"><input type="hidden" name="token" value="t"><input name="hush"><input name="stranger">
<template data-gate-rows="crew"><div><label for="n">Name</label><input id="n" name="name"><b data-gate-messages="name"></b>
<template data-gate-rows="skills"><p><input id="s" name="" aria-label="Skill"></p></template></div></template></form><input name="remarks2" form="f"></body></html>`;

interface Tree {
  readonly nodeName: string;
  readonly value?: string;
  readonly attrs?: readonly { readonly name: string; readonly value: string }[];
  readonly childNodes?: readonly Tree[];
}
const all = (node: Tree): Tree[] => [node, ...(node.childNodes ?? []).flatMap(all)];
const textOf = (node: Tree): string =>
  all(node)
    .map(({ value }) => value ?? '')
    .join('');

/** A page, drawn again and parsed. */
async function redrawn({ html = page, ...options }: Partial<RedrawOptions> & { readonly html?: string }) {
  const elements = all(parse(await redrawForm(html, { form: 'f', schema, raw: {}, findings: [], ...options })) as unknown as Tree).filter(({ attrs }) => attrs);
  const get = (element: Tree | undefined, name: string) => element?.attrs?.find((each) => each.name === name)?.value;
  const form = all(elements.find((element) => get(element, 'id') === 'f')!);
  const by = (name: string, value: string) => form.filter((element) => get(element, name) === value);
  return { elements, form, get, by, value: (name: string) => get(by('name', name)[0], 'value') };
}

const nasty = fc.oneof(
  fc.constantFrom(
    '</textarea><script>alert(1)</script>',
    '"><img src=x onerror=alert(1)>',
    '\n two',
    '\r\n<!--',
    '&lt;&amp;',
    "' autofocus onfocus=x '",
    '</title><script>',
    ']]>',
  ),
  fc.string({ unit: 'grapheme', maxLength: 12 }).filter((string) => !string.includes('\0')),
);

test('whatever was sent parses back as text, in every control, message, row and title', async () => {
  // (A message that names its field gets no label in the summary.)
  const message = nasty.filter((text) => !/name|vessel/i.test(text));
  const shape = fc.record({ vessel: nasty, remarks: nasty, names: fc.array(nasty, { maxLength: 3 }), skill: nasty, message, key: nasty });
  await fc.assert(
    fc.asyncProperty(shape, async ({ vessel, remarks, names, skill, message, key }) => {
      const raw = { vessel, remarks, [key]: message, crew: names.map((name) => ({ name, skills: [skill] })) };
      const findings = ['vessel', 'crew.0.name', key].map((path) => ({ path, message, severity: 'error' as const, code: 'x' }));
      const { elements, by, form, get, value } = await redrawn({ raw, findings });
      const lines = (string: string) => string.replace(/\r\n?/g, '\n');
      expect(elements.map(({ nodeName }) => nodeName).filter((name) => ['script', 'img'].includes(name))).toEqual([]);
      expect(elements.flatMap(({ attrs }) => attrs!.filter(({ name }) => /^on|autofocus/.test(name)))).toEqual([{ name: 'autofocus', value: '' }]);
      const ids = elements.flatMap((element) => get(element, 'id') ?? []);
      expect(new Set(ids).size).toBe(ids.length);
      expect(lines(value('vessel')!)).toBe(lines(vessel));
      expect(textOf(by('name', 'remarks')[0]!)).toBe(lines(remarks));
      for (const [i, name] of names.entries()) expect([value(`crew.${i}.name`), value(`crew.${i}.skills.0`)].map((each) => lines(each!))).toEqual([lines(name), lines(skill)]);
      expect(textOf(by('data-gate-messages', 'vessel')[0]!)).toBe(lines(message));
      expect(form.filter(({ nodeName }) => nodeName === 'li').map(textOf)).toEqual([`Vessel: ${message}`, `Crew 1: Name: ${message}`, message].map(lines));
    }),
  );
});

test('values, states, descriptions, rows and the summary; nothing secret is given back, nothing else is touched', async () => {
  const error = (path: string, message: string) => ({ path, message, severity: 'error' as const, code: 'x' });
  const raw = { vessel: 'Otter', kind: 'canoe', kit: ['lights'], ok: 'on', secret: 's', token: 'u', hush: 'h', paper: 'p', stranger: 'x', crew: [{ name: 'Ann' }, {}] };
  const findings = [error('vessel', 'Too short'), error('kit', 'No horn'), error('nowhere', 'Lost'), { ...error('ok', 'Hm'), severity: 'warning' as const }];
  const { elements, form, by, get, value } = await redrawn({ raw, findings });
  const [vessel] = by('name', 'vessel');
  expect(get(vessel, 'aria-describedby')).toBe('own vessel-hint vessel-messages');
  expect([get(vessel, 'aria-invalid'), get(vessel, 'data-gate-state'), textOf(by('data-gate-hint', 'vessel')[0]!)]).toEqual(['true', 'error', 'As <painted>']);
  const chosen = (name: string) => form.flatMap((element) => (get(element, name) === undefined ? [] : (get(element, 'value') ?? textOf(element))));
  expect({ selected: chosen('selected'), checked: chosen('checked') }).toEqual({ selected: ['canoe'], checked: ['lights', ''] });
  expect(['secret', 'token', 'hush', 'paper', 'stranger'].map(value)).toEqual([undefined, 't', undefined, undefined, undefined]);
  expect([value('crew.0.name'), value('crew.1.name'), get(by('name', 'crew.1.name')[0], 'id'), by('for', 'n-crew-1').length]).toEqual(['Ann', '', 'n-crew-1', 1]);
  const fieldset = form.find(({ nodeName }) => nodeName === 'fieldset');
  expect(by('id', get(fieldset, 'aria-describedby')!).map(textOf)).toEqual(['No horn']);
  expect([by('data-gate-messages', ''), form.filter(({ nodeName }) => nodeName === 'li')].map((each) => each.map(textOf))).toEqual([
    [''],
    ['Vessel: Too short', 'Kit: No horn', 'Lost'],
  ]);
  const links = form.filter(({ nodeName }) => nodeName === 'a').map((link) => [textOf(link), by('id', get(link, 'href')!.slice(1)).length]);
  expect(links).toEqual([
    ['Vessel: Too short', 1],
    ['Kit: No horn', 1],
  ]);
  expect(elements.filter(({ nodeName }) => nodeName === 'title').map(textOf)).toEqual(['Check 3 entries – Book']);
  expect(
    get(
      elements.find((element) => get(element, 'name') === 'vessel'),
      'value',
    ),
  ).toBeUndefined();
  await expect(redrawn({ form: 'none' })).rejects.toThrow('no form with the id "none"');
});

test('away from its field a message begins with the names of the rows and entries around it, as on a live page', async () => {
  const html = '<form id="f"><section data-gate-summary></section><p data-gate-messages></p><input name="tolls.barge"><input name="crew.0.jobs.1"></form>';
  const crew = list('Crew', group({ name: text('Name'), jobs: list('Jobs', text('Job')) }));
  const findings = ['tolls.barge', 'crew.0.jobs.1', 'crew.1.name'].map((path) => ({ path, message: 'No', severity: 'error' as const, code: 'x' }));
  const { form, by } = await redrawn({ html, schema: group({ tolls: dictionary('Tolls', number('Toll')), crew }), findings });
  expect(form.filter(({ nodeName }) => nodeName === 'li').map(textOf)).toEqual(['barge: Toll: No', 'Crew 1: Jobs 2: Job: No', 'Crew 2: Name: No']);
  expect(by('data-gate-messages', '').map(textOf)).toEqual(['']);
});

test.each([
  [
    'the summary, which lists the errors in the order of the page',
    '<p data-gate-messages></p>',
    ['b', 'a', 'gone'],
    '<section data-gate-summary></section>',
    ['section', '', 'b No|a No|gone No'],
  ],
  ['the line, without a summary', '<p data-gate-messages></p>', ['a', 'gone'], '', ['p', 'gone No', '']],
  ['a line that is made, where the page has none', '', ['gone', ''], '', ['div', ' No|gone No', '']],
  [
    'the first control that is wrong and not hidden, where nothing else holds anything',
    '<p data-gate-messages></p><input type="hidden" name="gone">',
    ['gone', 'a', 'b'],
    '',
    ['b', '', ''],
  ],
])('after a refusal without script the focus is on %s', async (_, line, paths, summary, expected) => {
  const html = `<form id="f">${line}${summary}<input name="b"><input name="a" autofocus></form>`;
  const findings = paths.map((path) => ({ path, message: `${path} No`, severity: 'error' as const, code: 'x' }));
  const { form, get, by } = await redrawn({ html, schema: group({ a: text('A'), b: text('B'), gone: text('Gone') }), findings });
  const [focused, ...others] = form.filter((element) => get(element, 'autofocus') !== undefined);
  expect([others.length, get(focused, 'tabindex')]).toEqual([0, expected[0] === 'b' ? undefined : '-1']);
  const held = (elements: readonly Tree[]) =>
    elements
      .flatMap(({ childNodes = [] }) => childNodes.map(textOf))
      .filter((each) => each !== ' ')
      .join('|');
  expect([get(focused, 'name') ?? focused!.nodeName, held(by('data-gate-messages', '')), held(form.filter(({ nodeName }) => nodeName === 'ul'))]).toEqual(expected);
});

test.each([
  ['a fieldset for them alone', '<fieldset data-box>RADIOS</fieldset>', true],
  ['a group by its role', '<div role="radiogroup" data-box>RADIOS</div>', true],
  ['a fieldset with another field in it', '<fieldset data-box>RADIOS<input name="vessel"></fieldset>', false],
  ['nothing around them', 'RADIOS', false],
])('radios in %s: what describes them is on it, or on each of them, as on a live page', async (_, around, isOnGroup) => {
  const html = `<form id="f">${around.replace('RADIOS', ['barge', 'canoe'].map((kind) => `<input type="radio" name="kind" value="${kind}">`).join(''))}</form>`;
  const { form, by, get } = await redrawn({ html, findings: [{ path: 'kind', message: 'No', severity: 'error', code: 'x' }] });
  const isDescribed = (element: Tree | undefined) => get(element, 'aria-describedby') !== undefined;
  const box = form.find((element) => get(element, 'data-box') !== undefined);
  expect([isDescribed(box), ...by('name', 'kind').map(isDescribed)]).toEqual([isOnGroup, !isOnGroup, !isOnGroup]);
});

test('an entry with a blank in its key is described by one element: its id has none', async () => {
  const tolls = group({ tolls: dictionary('Tolls', number('Toll', required())) });
  const path = 'tolls.side gate';
  const html = `<form id="f"><input name="${path}"></form>`;
  const { by, get } = await redrawn({ html, schema: tolls, findings: [{ path, message: 'No', severity: 'error', code: 'x' }] });
  expect(by('id', get(by('name', path)[0], 'aria-describedby')!).map(textOf)).toEqual(['No']);
  const gate = createGate(tolls, { initial: { tolls: { 'side gate': null as never } } });
  const field = gate.field(path as 'tolls');
  field.leave();
  const { input, messages, option } = partsOf(gate, field, field.state, undefined);
  expect(input['aria-describedby']).toBe(messages.id);
  expect([messages.id, input.id, option('a b').id].filter((id) => /\s/.test(id))).toEqual([]);
});

test('messages of a field are separate, and every control has its validity', async () => {
  const two = ['One', 'Two'].map((message) => ({ path: 'vessel', message, severity: 'error' as const, code: message }));
  const { by, get } = await redrawn({ findings: two });
  expect(textOf(by('data-gate-messages', 'vessel')[0]!)).toBe('One Two');
  const says = (name: string) => by('name', name).map((element) => get(element, 'aria-invalid'));
  expect(['vessel', 'remarks', 'kind', 'kit', 'hush', 'token', 'stranger'].map(says)).toEqual([
    ['true'],
    ['false'],
    ['false'],
    ['false', 'false'],
    ['false'],
    [undefined],
    [undefined],
  ]);
});
