// The inputs of component kits: values go in and out, and assistive technology gets the messages and states.

import { afterEach, describe, expect, test } from '@jest/globals';
import type { Locator, Page } from 'playwright-core';
import { useDemo } from './browser.ts';
import { booked } from '../../component-kits/src/booked.ts';
import { THOROUGH } from '../../../packages/upper-gate/__tests__/runs.ts';
import { worded } from '../../../packages/upper-gate/__tests__/wording.ts';

const demo = useDemo();
let page: Page;
let faults: string[] = [];
let isOfAria = false;
afterEach(async () => {
  await page.context().close();
  expect(faults).toEqual([]);
});

async function open(kit: string, query = ''): Promise<void> {
  page = await (await demo.browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' })).newPage();
  page.setDefaultTimeout(20_000);
  faults = [];
  isOfAria = kit === 'aria';
  page.on('pageerror', (error) => faults.push(String(error)));
  page.on('console', (message) => ['warning', 'error'].includes(message.type()) && faults.push(message.text()));
  await page.goto(`${demo.url}/kits/${kit}.html${query}`);
  await page.getByText('Book the mooring').waitFor();
}

/** How each field is found by its role and its name; its message if it is empty. */
const ONES = { vessel: 'Vessel name', lengthM: 'Length (m)', from: 'First night', quay: 'Quay' } as const;
const SEVERAL = { services: 'Services', power: 'Shore power', lines: 'Lines on board' } as const;
const FIELDS = { ...ONES, ...SEVERAL, fenders: 'Fenders', early: 'We arrive before noon', rules: 'I have read the harbour rules' } as const;
type Field = keyof typeof FIELDS;
const HOLDS: Partial<Record<Field, string>> = { quay: 'option', services: 'options', power: 'option', lines: 'options', rules: 'flag' };
const missing = (field: Field): string => worded('valueMissing', FIELDS[field], { holds: HOLDS[field] ?? 'value' });

/** What takes the focus for a field in every kit, or is around what does where several controls are one field. */
function entry(field: Field): Locator {
  const name = FIELDS[field];
  if (field === 'power') return page.getByRole('radiogroup', { name }).or(page.getByRole('group', { name }));
  if (field === 'lines') return page.getByRole('group', { name });
  if (field === 'early') return page.getByRole('switch', { name });
  if (field === 'rules') return page.getByRole('checkbox', { name });
  if (field === 'fenders') return page.getByRole('slider', { name });
  if (field === 'services') return page.getByRole('listbox', { name }).or(page.getByRole('combobox', { name })).or(page.getByRole('textbox', { name })).first();
  if (field === 'quay') return page.getByRole('combobox', { name }).or(page.getByRole('button', { name })).or(page.getByRole('textbox', { name })).first();
  return field === 'from' && isOfAria ? page.getByRole('spinbutton', { name }).first() : page.getByLabel(name).first();
}

/** The description and states of a field in the accessibility tree. */
async function told(field: Field): Promise<string> {
  const session = await page.context().newCDPSession(page);
  const handle = entry(field);
  await handle.evaluate((element) => void ((window as unknown as { asked: unknown }).asked = element));
  const { result } = await session.send('Runtime.evaluate', { expression: 'asked' });
  const { nodes } = await session.send('Accessibility.getPartialAXTree', { objectId: result.objectId!, fetchRelatives: false });
  const { description, properties } = nodes[0]!;
  const is = (name: string): unknown => properties?.find((each) => each.name === name)?.value.value ?? '-';
  return `${String(description?.value)}|${String(is('invalid'))}|${String(is('required'))}`;
}

/** Presses an option where it is drawn for a select: in a pop-up, or beside it. */
const pick = async (field: Field, option: string): Promise<void> => {
  await entry(field).click();
  await page.getByRole('option', { name: option, exact: true }).click();
};
const press = async (place: Locator, ...keys: readonly string[]): Promise<void> => {
  await place.focus();
  for (const key of keys) await page.keyboard.press(key);
};

/** Fills in each field, as a person does. */
const edit: Readonly<Record<Field, (kit: string) => Promise<void>>> = {
  vessel: () => entry('vessel').fill('Otter'),
  lengthM: () => entry('lengthM').fill('12'),
  async from(kit) {
    if (kit === 'aria') {
      await entry('from').click();
      await page.keyboard.type('01052027');
    } else await entry('from').fill('2027-05-01');
    if (kit !== 'vue') return page.keyboard.press('Tab');
    // Its calendar covers the next field until it has gone.
    const calendar = page.getByRole('dialog');
    await calendar.waitFor();
    await page.keyboard.press('Escape');
    await calendar.waitFor({ state: 'hidden' });
  },
  quay: () => pick('quay', 'South quay'),
  async services(kit) {
    if (kit === 'elements') await entry('services').selectOption(['Laundry']);
    else if (kit === 'aria') await page.getByRole('option', { name: 'Laundry' }).click();
    else {
      await page.locator(kit === 'vue' ? '.p-multiselect' : '.mantine-MultiSelect-input').click();
      await page.getByRole('option', { name: 'Laundry' }).click();
      await page.keyboard.press('Escape');
    }
  },
  power: () => page.getByText('6 A', { exact: true }).click(),
  lines: () => page.getByText('Stern', { exact: true }).click(),
  fenders: () => press(entry('fenders'), 'Home', 'ArrowRight', 'ArrowRight', 'ArrowRight'),
  early: () => press(entry('early'), 'Space'),
  rules: () => page.getByText(FIELDS.rules, { exact: true }).click(),
};
const ONE_EACH = { vessel: 'Otter', lengthM: 12, from: '2027-05-01', quay: 'South quay', power: '6 A', fenders: 3, early: true, rules: true };
const EDITED = { ...ONE_EACH, services: ['Laundry'], lines: ['Stern'], papers: 'policy.pdf', guests: ['Ada'] };

const book = (): Promise<void> => page.getByText('Book the mooring').click();
const sent = async (): Promise<unknown> => JSON.parse(await page.locator('output:not(:empty)').innerText());
const fields = Object.keys(FIELDS) as Field[];

/** What the page says once it has said something, or nothing any more. */
async function messagesOnce(wanted: readonly string[]): Promise<void> {
  const messages = async (): Promise<string[]> => (await page.locator('[data-gate-messages]:not(:empty)').allInnerTexts()).map((text) => text.trim());
  for (let tries = 0; tries < 20 && (await messages()).length !== wanted.length; tries += 1) await page.waitForTimeout(50);
  expect(await messages()).toEqual(wanted);
}

describe.each(['elements', 'vue', 'aria', 'values'])('%s', (kit) => {
  /** (A slider of HTML, or of this kit, holds a value from the start.) */
  const required = fields.filter((field) => field !== 'early' && !(kit === 'elements' && field === 'fenders'));

  test('a refusal describes what takes the focus; edits arrive in the data; a reset starts over', async () => {
    await open(kit);
    await book();
    await messagesOnce(required.map(missing));
    const said: Record<string, string> = {};
    for (const field of required) said[field] = await told(field);
    // Groups are not invalid themselves; ARIA has no required buttons, sliders and groups.
    const groups = ['lines', ...(['elements', 'vue'].includes(kit) ? ['power'] : [])];
    const others = ['fenders', 'rules', ...(kit === 'aria' ? ['quay'] : ['from'])];
    const states = (field: Field): string => (groups.includes(field) ? '' : others.includes(field) ? '|true' : '|true|true');
    expect(said).toEqual(Object.fromEntries(required.map((field) => [field, expect.stringContaining(missing(field) + states(field))])));
    for (const field of fields) await edit[field](kit);
    await page.locator('input[type=file]').setInputFiles({ name: 'policy.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF') });
    await page.getByText('Add a guest').click();
    // The new row takes the focus once the kit has drawn it.
    await page.waitForTimeout(150);
    await page.keyboard.type('Ada');
    await messagesOnce([]);
    await book();
    expect(await sent()).toEqual(EDITED);
    await page.getByText('Start over').click();
    await book();
    await messagesOnce(required.map(missing));
  });

  if (!THOROUGH) return;
  test('data come in; opening, or moving within a field, is not leaving it', async () => {
    await open(kit, '?booked');
    await book();
    expect(await sent()).toEqual(booked);
    await open(kit);
    await entry('vessel').focus();
    const [radios, boxes] = kit === 'elements' ? [page.locator('md-radio'), page.locator('md-checkbox')] : [page.getByRole('radio'), page.getByRole('checkbox')];
    for (const field of required) {
      if (field === 'quay') {
        await entry('quay').click();
        await page.getByRole('option', { name: 'Island' }).waitFor();
        await page.waitForTimeout(150);
        await page.keyboard.press('Escape');
      } else if (field === 'power') await radios.first().focus();
      else if (field === 'lines') for (const nth of [0, 1]) await boxes.nth(nth).focus();
      else await entry(field).focus();
      // (One of them opens a calendar.)
      if (field === 'from') await page.keyboard.press('Escape');
      await messagesOnce(required.slice(0, required.indexOf(field)).map(missing));
    }
    await page.getByText('All kits').focus();
    await messagesOnce(required.map(missing));
  });
});
