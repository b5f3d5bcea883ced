// A list of 10,000 rows. The page draws only the rows in its window; the form holds and validates them all.

import { createGate, group, length, list, noDuplicates, number, pattern, range, required, text, type Handle, type Row } from 'upper-gate';
import './style.css';

const crate = group({
  contents: text('Contents', required(), length({ max: 30 })),
  seal: text({ label: 'Seal', case: 'upper' }, required(), pattern(/^[A-Z]\d{5}$/, 'A letter and five digits')),
  weight: number('Weight', required(), range({ min: 1, max: 900 })),
});
const FIELDS = ['contents', 'seal', 'weight'] as const;

const GOODS = ['Apples', 'Bricks', 'Candles', 'Drums', 'Earthenware', 'Flour', 'Glass'];
const initial = Array.from({ length: 10_000 }, (_, i) => ({
  contents: GOODS[i % GOODS.length]!,
  seal: `S${String(10_000 + i)}`,
  weight: 20 + ((i * 37) % 600),
}));

const gate = createGate(group({ crates: list('Crates', crate, noDuplicates({ by: 'seal' })) }), {
  initial: { crates: initial },
  reveal: 'change',
});
const crates = gate.list('crates');
type CrateRow = Row<typeof crate>;

const find = (id: string): HTMLElement => document.getElementById(id)!;
const view = find('window');
/** The height of a row in pixels: style.css has it, and another one for narrow windows. */
const rowHeight = (): number => Number.parseFloat(getComputedStyle(view).getPropertyValue('--row'));

/** One drawn row, and what undoes it. */
interface Drawn {
  readonly element: HTMLElement;
  readonly number: HTMLElement;
  readonly remove: HTMLElement;
  readonly undo: readonly (() => void)[];
}
const drawn = new Map<CrateRow, Drawn>();

/** A control, wired by hand to a field: what a binding does, in a few lines. */
function drawField(row: CrateRow, name: (typeof FIELDS)[number], messages: HTMLElement): [HTMLInputElement, () => void] {
  const field: Handle = row.field(name);
  const input = document.createElement('input');
  input.setAttribute('aria-label', field.label);
  input.setAttribute('aria-describedby', messages.id);
  input.addEventListener('input', () => {
    const start = performance.now();
    field.set(input.value);
    find('work').textContent = `This keystroke took ${(performance.now() - start).toFixed(2)} ms of script.`;
  });
  input.addEventListener('blur', () => field.leave());
  const show = (): void => {
    if (input.value !== field.raw) input.value = String(field.raw);
    const error = field.shown[0];
    if (field.required) input.ariaRequired = 'true';
    input.dataset['gateState'] = error ? 'error' : 'idle';
    input.setAttribute('aria-invalid', String(error !== undefined));
    const shown = FIELDS.flatMap((each) => row.field(each).shown);
    messages.textContent = shown.map(({ message }) => message).join('. ');
    if (shown.length > 0) messages.dataset['gateSeverity'] = 'error';
    else delete messages.dataset['gateSeverity'];
  };
  show();
  return [input, field.subscribe(show)];
}

function draw(row: CrateRow): Drawn {
  const element = document.createElement('div');
  element.className = 'crate';
  element.role = 'group';
  const number = document.createElement('span');
  const messages = document.createElement('span');
  messages.id = `messages-${row.key}`;
  const fields = FIELDS.map((name) => drawField(row, name, messages));
  const remove = document.createElement('button');
  remove.type = 'button';
  remove.className = 'quiet';
  remove.textContent = 'Remove';
  remove.addEventListener('click', () => {
    crates.remove(crates.rows.indexOf(row));
    view.focus();
  });
  element.append(number, ...fields.map(([input]) => input), remove, messages);
  find('crates').append(element);
  return { element, number, remove, undo: fields.map(([, undo]) => undo) };
}

/** Draws the rows in the window, in place; takes the others away. */
function redraw(): void {
  const { length: total } = crates;
  find('crates').style.height = `${total * rowHeight()}px`;
  const first = Math.max(0, Math.floor(view.scrollTop / rowHeight()) - 3);
  const last = Math.min(total, first + Math.ceil(view.clientHeight / rowHeight()) + 6);
  const visible = Array.from({ length: Math.max(0, last - first) }, (_, i) => crates.row(first + i));
  for (const [row, { element, undo }] of drawn) {
    if (visible.includes(row)) continue;
    undo.forEach((each) => each());
    element.remove();
    drawn.delete(row);
  }
  visible.forEach((row, i) => {
    const one = drawn.get(row) ?? draw(row);
    drawn.set(row, one);
    one.element.style.top = `${(first + i) * rowHeight()}px`;
    const name = `Crate ${first + i + 1}`;
    one.number.textContent = String(first + i + 1);
    one.element.ariaLabel = name;
    one.remove.ariaLabel = `Remove ${name}`;
  });
}

const count = (): void => {
  const { errorCount } = gate.state;
  find('errors').textContent =
    errorCount === 0 ? 'All crates are in order.' : `${errorCount} ${errorCount === 1 ? 'error' : 'errors'} in ${crates.length} crates.`;
};
gate.watch(({ state }) => state.errorCount, count);
gate.watch(() => crates.length, redraw);
view.addEventListener('scroll', redraw);
new ResizeObserver(redraw).observe(view);
find('add').addEventListener('click', () => {
  crates.add({}, 0);
  view.scrollTop = 0;
  redraw();
  view.querySelector('input')?.focus();
});
find('next').addEventListener('click', () => {
  const at = gate.findings.find(({ severity }) => severity === 'error')?.path.split('.')[1];
  if (at === undefined) return;
  // It may be on a crate that nobody has touched: show it now.
  void gate.validate(`crates.${Number(at)}`);
  view.scrollTop = Math.max(0, Number(at) * rowHeight() - rowHeight());
  redraw();
  view.querySelector<HTMLInputElement>('[aria-invalid=true]')?.focus();
});
count();
redraw();
