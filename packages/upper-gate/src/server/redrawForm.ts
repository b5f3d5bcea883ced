// A page whose form was posted without script and refused, drawn again: with what was sent, and what is wrong with it.
//
// The page is parsed, changed as a tree and serialised again, so that whatever was sent comes out as text: nothing is put
// together from strings. Elements are found by comparing attribute values, never by a selector made of input.

import { keysOf, pathOf } from '../schema/finding.ts';
import type { DefaultTreeAdapterTypes, parse as parseDocument } from 'parse5';
import { nameInRow, NAMING, REFERRING } from '../html/rowAttributes.ts';
import { inLanguage, type Catalogue } from '../messages/text.ts';
import type { Finding } from '../schema/finding.ts';
import { nameIn } from '../schema/nameIn.ts';
import type { Node } from '../schema/node.ts';
import { partAt, partOf, type Part } from '../schema/part.ts';
import { ownValue } from '../schema/safeAccess.ts';
import { blocks, gravest } from '../schema/severity.ts';
import { areTogether, BUTTONS } from '../showing/plan/controls.ts';
import { describedElements, newPlace, type PageElements } from '../showing/plan/described.ts';
import { idFrom } from '../showing/plan/ids.ts';
import { headingOf } from '../showing/plan/heading.ts';
import { lineOf, type LineMessage } from '../showing/plan/line.ts';
import { messageTag } from '../showing/plan/messages.ts';
import { awayFromField } from '../showing/plan/names.ts';

type Element = DefaultTreeAdapterTypes.Element;
type Parent = DefaultTreeAdapterTypes.ParentNode;
type ChildNode = DefaultTreeAdapterTypes.ChildNode;

/** The options of `redrawForm`. */
export interface RedrawOptions {
  /** The `id` of the form. Default: the first form of the page. */
  readonly form?: string;
  readonly schema: Node;
  /** The values that were sent, as `validateRequest` returns them. */
  readonly raw: unknown;
  readonly findings: readonly (Pick<Finding, 'path' | 'message' | 'severity'> & Partial<Pick<Finding, 'code'>>)[];
  /** The language of the heading and the hints; default English. */
  readonly messages?: Catalogue;
}

/** Inputs that are no controls of a person's. */
const HOLDS_NOTHING = ['hidden', ...BUTTONS];
/** Inputs whose value no page may give back, or that hold none. */
const UNTOUCHED = ['password', 'file', ...HOLDS_NOTHING];
/** Elements whose text a serialiser writes as it is. */
const RAW_TEXT = ['style', 'script', 'xmp', 'iframe', 'noembed', 'noframes', 'noscript', 'plaintext'];
/** More rows than that are not drawn: a request may hold as many as its limits allow. */
const MOST_ROWS = 1000;

const isElement = (node: DefaultTreeAdapterTypes.Node): node is Element => 'tagName' in node;

/** All elements within another, in document order; not those of templates. */
function elementsIn(parent: Parent, found: Element[] = []): Element[] {
  for (const node of parent.childNodes) {
    if (!isElement(node)) continue;
    found.push(node);
    elementsIn(node, found);
  }
  return found;
}

const attribute = (element: Element, name: string): string | undefined => element.attrs.find((each) => each.name === name)?.value;

function setAttribute(element: Element, name: string, value: string | undefined): void {
  element.attrs = element.attrs.filter((each) => each.name !== name);
  if (value !== undefined) element.attrs.push({ name, value });
}

const isControl = ({ tagName }: Element): boolean => ['input', 'select', 'textarea'].includes(tagName);
const GROUP_ROLES = ['group', 'radiogroup'];

/** The elements of a parsed page, as the plan asks for them. */
const PARSED: PageElements<Element> = {
  groupAround: (element) => around(element, (each) => each.tagName === 'fieldset' || GROUP_ROLES.includes(attribute(each, 'role') ?? '')),
  controlsIn: (element) => elementsIn(element).filter((each) => isControl(each) && !HOLDS_NOTHING.includes(typeOf(each))),
  nameOf: (control) => attribute(control, 'name'),
  labelAround: (element) => around(element, ({ tagName }) => tagName === 'label'),
  legendOf: (fieldset) => elementsIn(fieldset).find(({ tagName }) => tagName === 'legend'),
  isFieldset: ({ tagName }) => tagName === 'fieldset',
};

/** The nearest element around another that is wanted. */
function around(element: Element, isWanted: (element: Element) => boolean): Element | undefined {
  for (let at: Parent | null = element.parentNode; at && isElement(at); at = at.parentNode) if (isWanted(at)) return at;
  return undefined;
}

/** Whether a person can be brought to an element: it is a control that is not hidden. */
const isReachable = (element: Element): boolean =>
  isControl(element) && !HOLDS_NOTHING.includes(typeOf(element)) && attribute(element, 'hidden') === undefined;

const typeOf = (control: Element): string => (attribute(control, 'type') ?? 'text').toLowerCase();

const makeText = (value: string, parentNode: Parent): ChildNode => ({ nodeName: '#text', value, parentNode });

function setText(element: Element, text: string): void {
  if (!RAW_TEXT.includes(element.tagName)) element.childNodes = [makeText(text, element)];
}

function append(parent: Parent, child: Element): void {
  child.parentNode = parent;
  parent.childNodes.push(child);
}

function prepend(parent: Parent, child: Element): void {
  child.parentNode = parent;
  parent.childNodes.unshift(child);
}

function insert(element: Element, offset: 0 | 1, after: Element): void {
  const parent = element.parentNode!;
  after.parentNode = parent;
  parent.childNodes.splice(parent.childNodes.indexOf(element) + offset, 0, after);
}

function makeElement(like: Element, tagName: string, attributes: Readonly<Record<string, string>>, text = ''): Element {
  const attrs = Object.entries(attributes).map(([name, value]) => ({ name, value }));
  const element: Element = { nodeName: tagName, tagName, attrs, namespaceURI: like.namespaceURI, parentNode: null, childNodes: [] };
  if (text !== '') setText(element, text);
  return element;
}

const textIn = (element: Element): string =>
  element.childNodes.map((node) => (isElement(node) ? textIn(node) : 'value' in node ? node.value : '')).join('');

/** The value at a path of raw values. */
const valueAt = (raw: unknown, path: string): unknown => keysOf(path).reduce((value, key) => ownValue(value, key), raw);

/** What was sent for a control, as texts. */
const textsAt = (raw: unknown, path: string): readonly string[] =>
  [valueAt(raw, path)]
    .flat()
    .flatMap((value) => (value === true ? 'on' : ['string', 'number'].includes(typeof value) ? String(value) : []));

/** Whether a part, or one around it, is private. */
function isPrivate(root: Part, path: string): boolean {
  const keys = keysOf(path);
  return keys.some((_, i) => partAt(root, pathOf(keys.slice(0, i + 1)))?.settings.private);
}

/** A row made from a template: names are those of the row, ids and references its own. */
function makeRow(template: Element, path: string, index: number): Element | undefined {
  const { content } = template as DefaultTreeAdapterTypes.Template;
  const pattern = content.childNodes.find(isElement);
  if (!pattern) return undefined;
  const clone = (element: Element): Element => {
    const copy: Element = { ...element, attrs: element.attrs.map((each) => ({ ...each })), childNodes: [] };
    copy.childNodes = element.childNodes.map((node) => {
      const child = isElement(node) ? clone(node) : { ...node };
      child.parentNode = copy;
      return child;
    });
    return copy;
  };
  const row = clone(pattern);
  const all = [row, ...elementsIn(row)];
  const ids = all.flatMap((element) => attribute(element, 'id') ?? []);
  // Rows within rows have the same index in each.
  const own = `-${path.replaceAll('.', '-')}-${index}`;
  for (const element of all) {
    for (const each of element.attrs) {
      if (NAMING.includes(each.name)) each.value = nameInRow(path, index, each.value);
      else if (each.name === 'id') each.value += own;
      else if (REFERRING.includes(each.name))
        each.value = each.value
          .split(/\s+/)
          .map((id) => (ids.includes(id) ? `${id}${own}` : id))
          .join(' ');
    }
    if (attribute(element, 'data-gate-number') !== undefined) setText(element, String(index + 1));
  }
  setAttribute(row, 'data-gate-row', path);
  return row;
}

/** Draws as many rows of each list as were sent, as far as they are not there. */
function drawRows(form: Parent, raw: unknown): void {
  for (const template of elementsIn(form)) {
    const path = template.tagName === 'template' ? attribute(template, 'data-gate-rows') : undefined;
    if (path === undefined) continue;
    const rows = valueAt(raw, path);
    const count = Array.isArray(rows) ? Math.min(rows.length, MOST_ROWS) : 0;
    const siblings = template.parentNode!.childNodes.filter(isElement);
    const there = siblings.filter((element) => attribute(element, 'data-gate-row') === path).length;
    for (let index = there; index < count; index += 1) {
      const row = makeRow(template, path, index);
      if (!row) break;
      insert(template, 0, row);
      drawRows(row, raw);
    }
  }
}

class Redrawing {
  readonly #root: Part;
  readonly #options: RedrawOptions;
  readonly #form: Element;
  readonly #elements: readonly Element[];
  /** The first element with each hook, by the hook and its path: `'messages crew.0.name'`. */
  readonly #hooks = new Map<string, Element>();
  /** The controls of each name. */
  readonly #controls = new Map<string, Element[]>();
  #ids: Set<string>;

  constructor(document: Parent, form: Element, options: RedrawOptions) {
    this.#root = partOf(options.schema);
    this.#options = options;
    this.#form = form;
    drawRows(form, options.raw);
    const id = attribute(form, 'id');
    const all = elementsIn(document);
    this.#ids = new Set(all.flatMap((element) => attribute(element, 'id') ?? []));
    const inside = new Set(elementsIn(form));
    this.#elements = all.filter((element) => inside.has(element) || (id !== undefined && attribute(element, 'form') === id));
    for (const element of this.#elements) {
      const name = isControl(element) ? attribute(element, 'name') : undefined;
      if (name) this.#controls.set(name, [...(this.#controls.get(name) ?? []), element]);
      for (const hook of ['messages', 'summary']) {
        const path = attribute(element, `data-gate-${hook}`);
        const key = `${hook} ${path}`;
        if (path !== undefined && !this.#hooks.has(key)) this.#hooks.set(key, element);
      }
    }
  }

  draw(document: Parent): void {
    for (const [name, controls] of this.#controls)
      if (partAt(this.#root, name)) {
        // As on a page with script: said also where nothing is wrong.
        for (const control of controls) if (!HOLDS_NOTHING.includes(typeOf(control))) setAttribute(control, 'aria-invalid', 'false');
        if (!isPrivate(this.#root, name)) controls.forEach((control) => this.#fill(control, name));
      }
    this.#drawHints();
    const strays = this.#drawMessages();
    const summary = this.#drawSummary(document, strays);
    const line = this.#drawLine(strays, summary !== undefined);
    // As on a page with script, but that the whole is read first: the page is a new one.
    const wrong = this.#elements.find((element) => isReachable(element) && attribute(element, 'aria-invalid') === 'true');
    const first = summary ?? line ?? wrong;
    if (first) this.#takeFocus(document, first);
    // The script takes the values as edits, and these findings over.
    const findings = this.#options.findings.map(({ path, message, severity, code }) => ({ path, message, severity, code }));
    setAttribute(this.#form, 'data-gate-posted', JSON.stringify(findings));
  }

  #find(hook: 'messages' | 'summary', path: string): Element | undefined {
    return this.#hooks.get(`${hook} ${path}`);
  }

  #idOf(element: Element, wanted: string): string {
    let id = attribute(element, 'id');
    if (id === undefined) {
      for (id = wanted; this.#ids.has(id);) id += '-';
      this.#ids.add(id);
      setAttribute(element, 'id', id);
    }
    return id;
  }

  /** Gives a control the value that was sent for it. */
  #fill(control: Element, name: string): void {
    const sent = textsAt(this.#options.raw, name);
    const type = typeOf(control);
    if (control.tagName === 'textarea') {
      const text = sent[0] ?? '';
      // A parser drops a line break that comes first.
      setText(control, /^[\r\n]/.test(text) ? `\n${text}` : text);
    } else if (control.tagName === 'select') {
      for (const option of elementsIn(control))
        if (option.tagName === 'option') {
          const value = attribute(option, 'value') ?? textIn(option).trim();
          setAttribute(option, 'selected', sent.includes(value) ? '' : undefined);
        }
    } else if (type === 'radio' || type === 'checkbox')
      setAttribute(control, 'checked', sent.includes(attribute(control, 'value') ?? 'on') ? '' : undefined);
    else if (!UNTOUCHED.includes(type)) setAttribute(control, 'value', sent[0] ?? '');
  }

  /** The elements that carry the descriptions of a field. */
  #described(path: string): readonly Element[] {
    const controls = this.#controls.get(path) ?? [];
    const [type] = controls.map(typeOf);
    return describedElements(controls, areTogether(type, partAt(this.#root, path)?.traits.holds), PARSED);
  }

  #describe(path: string, by: Element, kind: string): void {
    const id = this.#idOf(by, idFrom(path, kind));
    for (const element of this.#described(path)) {
      const before = (attribute(element, 'aria-describedby') ?? '').split(/\s+/).filter(Boolean);
      if (!before.includes(id)) setAttribute(element, 'aria-describedby', [...before, id].join(' '));
    }
  }

  #drawHints(): void {
    for (const element of this.#elements) {
      const path = attribute(element, 'data-gate-hint');
      const hint = path === undefined ? undefined : partAt(this.#root, path)?.hint;
      if (path === undefined || hint === undefined) continue;
      setText(element, inLanguage(hint, this.#options.messages));
      this.#describe(path, element, 'hint');
    }
  }

  /** @returns the findings without a place or a control, which show above the form */
  #drawMessages(): readonly RedrawOptions['findings'][number][] {
    const byPath = new Map<string, RedrawOptions['findings'][number][]>();
    const strays: RedrawOptions['findings'][number][] = [];
    for (const finding of this.#options.findings) {
      const same = byPath.get(finding.path) ?? [];
      if (!same.some(({ message }) => message === finding.message)) byPath.set(finding.path, [...same, finding]);
    }
    for (const [path, findings] of byPath) {
      const place = path === '' ? undefined : (this.#find('messages', path) ?? this.#makePlace(path));
      if (!place) {
        strays.push(...findings);
        continue;
      }
      this.#show(place, findings);
      this.#describe(path, place, 'messages');
      for (const control of this.#controls.get(path) ?? []) {
        setAttribute(control, 'data-gate-state', gravest(findings));
        if (findings.some(blocks)) setAttribute(control, 'aria-invalid', 'true');
      }
    }
    return strays;
  }

  /** @returns the line, if it holds something */
  #drawLine(strays: RedrawOptions['findings'], isListed: boolean): Element | undefined {
    const own = strays.filter(({ path }) => path === '');
    const others = strays.filter(({ path }) => path !== '').map((stray) => ({ ...stray, message: this.#awayFromField(stray) }));
    const messages = lineOf(own, others, isListed);
    if (messages.length === 0) return undefined;
    const line = this.#find('messages', '') ?? this.#makeLine();
    this.#show(line, messages);
    return line;
  }

  /** Has the browser focus an element as it loads the page. What cannot take the focus by itself can be given it. */
  #takeFocus(document: Parent, element: Element): void {
    for (const each of elementsIn(document)) setAttribute(each, 'autofocus', undefined);
    setAttribute(element, 'autofocus', '');
    if (!isControl(element) && attribute(element, 'tabindex') === undefined) setAttribute(element, 'tabindex', '-1');
  }

  #show(place: Element, findings: readonly LineMessage[]): void {
    if (RAW_TEXT.includes(place.tagName)) return;
    const tag = messageTag(place.tagName);
    place.childNodes = [];
    findings.forEach(({ message, severity }, i) => {
      // A blank between, so that they read apart.
      if (i > 0 && tag === 'span') place.childNodes.push(makeText(' ', place));
      append(place, makeElement(place, tag, { 'data-gate-severity': severity }, message));
    });
  }

  #makePlace(path: string): Element | undefined {
    const controls = this.#controls.get(path);
    if (!controls) return undefined;
    const place = makeElement(this.#form, 'div', { 'data-gate-messages': path });
    const at = newPlace(controls, this.#described(path), PARSED);
    if ('after' in at) insert(at.after, 1, place);
    else prepend(at.in, place);
    return place;
  }

  #makeLine(): Element {
    const line = makeElement(this.#form, 'div', { 'data-gate-messages': '' });
    prepend(this.#form, line);
    return line;
  }

  /** A message, after the names of the rows and entries around its field. */
  #awayFromField({ path, message }: Pick<Finding, 'path' | 'message'>): string {
    const keys = keysOf(path);
    const names = keys.flatMap((key, i) => {
      const around = i === 0 ? undefined : partAt(this.#root, pathOf(keys.slice(0, i)));
      return around ? nameIn(around, key, this.#options.messages) : [];
    });
    return awayFromField(names, path === '' ? undefined : partAt(this.#root, path), message, this.#options.messages);
  }

  /** @returns the summary, if the page has one */
  #drawSummary(document: Parent, placeless: RedrawOptions['findings']): Element | undefined {
    const strays = new Set(placeless);
    const positions = new Map(this.#elements.map((element, i) => [element, i]));
    // In the order of the page; what is not on it, or hidden, comes last, and nothing leads there.
    const errors = this.#options.findings
      .filter(blocks)
      .map((error) => ({ error, control: strays.has(error) ? undefined : this.#controls.get(error.path)?.find(isReachable) }))
      .map((each) => ({ ...each, position: each.control ? positions.get(each.control)! : positions.size }))
      .sort((a, b) => a.position - b.position);
    if (errors.length === 0) return undefined;
    const { messages } = this.#options;
    const heading = headingOf(
      errors.map(({ error }) => error),
      messages,
    );
    const title = elementsIn(document).find(({ tagName, parentNode }) => tagName === 'title' && parentNode?.nodeName === 'head');
    if (title) setText(title, `${heading} – ${textIn(title).trim()}`);
    const place = this.#find('summary', '');
    if (!place || RAW_TEXT.includes(place.tagName)) return undefined;
    const top = makeElement(place, 'h2', {}, heading);
    const list = makeElement(place, 'ul', {});
    for (const { error, control } of errors) {
      const item = makeElement(place, 'li', {});
      const text = this.#awayFromField(error);
      if (control)
        append(item, makeElement(place, 'a', { href: `#${encodeURIComponent(this.#idOf(control, idFrom('field', error.path)))}` }, text));
      else setText(item, text);
      append(list, item);
    }
    place.childNodes = [];
    append(place, top);
    append(place, list);
    setAttribute(place, 'hidden', undefined);
    setAttribute(place, 'role', 'group');
    setAttribute(place, 'aria-labelledby', this.#idOf(top, 'errors-heading'));
    return place;
  }
}

/**
 * Draws a page again after its form was posted without script and refused: with the values, choices and rows that were sent;
 * with messages, hints, `aria-describedby` and `aria-invalid`; with the summary, which takes the focus (else the line above the
 * form, or the first wrong control, does), and a title that mentions the errors.
 * Passwords, hidden controls, files and private fields stay as they are, and so do controls that the schema doesn't know.
 * `bindForm` takes over from there: the values count as edits, and messages disappear as the user corrects them.
 *
 * @param html the page, or a part of one, as it is drawn for the first time
 * @param options the schema, what was sent, and what was found
 * @returns the page
 * @throws TypeError if the page has no such form; Error if the package parse5 is not installed
 *
 * @example
 * const result = await validateRequest(passage, request);
 * if (!result.ok && result.acceptsHtml)
 *   return new Response(await redrawForm(page, { schema: passage, raw: result.raw, findings: result.findings }), {
 *     status: result.problem.status,
 *     headers: { 'content-type': 'text/html; charset=utf-8' },
 *   });
 */
export async function redrawForm(html: string, options: RedrawOptions): Promise<string> {
  const { parse, parseFragment, serialize } = await loadParser();
  const document: Parent = /<(?:!doctype|html|head|body)[\s>]/i.test(html) ? parse(html) : parseFragment(html);
  const forms = elementsIn(document).filter(({ tagName }) => tagName === 'form');
  const form = options.form === undefined ? forms[0] : forms.find((each) => attribute(each, 'id') === options.form);
  if (!form) throw new TypeError(`The page has no form${options.form === undefined ? '' : ` with the id "${options.form}"`}.`);
  new Redrawing(document, form, options).draw(document);
  return serialize(document);
}

interface Parser {
  readonly parse: typeof parseDocument;
  readonly parseFragment: (html: string) => DefaultTreeAdapterTypes.DocumentFragment;
  readonly serialize: (node: Parent) => string;
}

const loadParser = (): Promise<Parser> =>
  import('parse5').catch((error: unknown) => {
    throw new Error('redrawForm() needs the package parse5. Install it beside upper-gate: npm install parse5.', { cause: error });
  });
