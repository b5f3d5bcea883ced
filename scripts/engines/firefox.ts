// Firefox, as Debian has it, for tests that are written for the browser of playwright-core: driven over WebDriver BiDi. As much of a page
// and its locators as the tables of behaviour and accessibility use.

import type { Browser, Page } from 'playwright-core';
import puppeteer, { type ElementHandle, type Page as DrivenPage } from 'puppeteer-core';

/** How one finds elements, step by step. */
type Step =
  | { readonly css: string }
  | { readonly role: string; readonly name?: string; readonly exact?: boolean }
  | { readonly text: string }
  | { readonly label: string }
  | { readonly hasText: string }
  | { readonly nth: number };

/** Finds elements in a page. (It runs there: nothing from outside may be used.) */
function resolve(steps: readonly Step[]): Element[] {
  const textOf = (element: Element): string => element.textContent.replace(/\s+/g, ' ').trim();
  const nameOf = (element: Element): string => {
    const by = element.getAttribute('aria-labelledby');
    const labels = by ? by.split(' ').map((id) => document.getElementById(id)) : [...((element as HTMLInputElement).labels ?? [])];
    const named = element.getAttribute('aria-label') ?? labels.map((each) => (each ? textOf(each) : '')).join(' ');
    return named || textOf(element.querySelector('legend') ?? element);
  };
  const roles: Record<string, string> = {
    button: 'button, [role=button], [type=submit]',
    link: 'a[href]',
    group: 'fieldset, [role=group]',
    listitem: 'li',
    option: 'option, [role=option]',
    textbox: 'input, textarea',
  };
  const all = (within: Element | Document, selector: string): Element[] => [...within.querySelectorAll(selector)];
  /** The innermost elements with a text. */
  const withText = (within: Element | Document, text: string): Element[] =>
    all(within, '*').filter(
      (each) =>
        !['SCRIPT', 'STYLE'].includes(each.tagName) &&
        textOf(each).toLowerCase().includes(text.toLowerCase()) &&
        ![...each.children].some((child) => textOf(child).toLowerCase().includes(text.toLowerCase())),
    );
  let found: (Element | Document)[] = [document];
  for (const step of steps) {
    if ('nth' in step) found = found.slice(step.nth, step.nth === -1 ? undefined : step.nth + 1);
    else if ('hasText' in step) found = found.filter((each) => textOf(each as Element).includes(step.hasText));
    else
      found = found.flatMap((within) => {
        if ('css' in step) return step.css.startsWith('text=') ? withText(within, step.css.slice(5)) : all(within, step.css);
        if ('text' in step) return withText(within, step.text);
        if ('label' in step) return all(within, 'input, select, textarea').filter((each) => nameOf(each).includes(step.label));
        const { role, name, exact } = step;
        return all(within, roles[role] ?? `[role=${role}]`).filter(
          (each) =>
            each.checkVisibility() &&
            (name === undefined || (exact ? nameOf(each) === name : nameOf(each).toLowerCase().includes(name.toLowerCase()))),
        );
      });
  }
  return [...new Set(found)] as Element[];
}

const isShown = (element: Element): boolean => element.checkVisibility({ visibilityProperty: true }) && element.getClientRects().length > 0;
const pause = (milliseconds: number): Promise<void> => new Promise((done) => setTimeout(done, milliseconds));

class FoxLocator {
  readonly #page: DrivenPage;
  readonly #steps: readonly Step[];
  readonly #timeout: () => number;
  constructor(page: DrivenPage, steps: readonly Step[], timeout: () => number) {
    this.#page = page;
    this.#steps = steps;
    this.#timeout = timeout;
  }
  #and(step: Step): FoxLocator {
    return new FoxLocator(this.#page, [...this.#steps, step], this.#timeout);
  }
  locator = (css: string, { hasText }: { hasText?: string } = {}): FoxLocator =>
    hasText === undefined ? this.#and({ css }) : this.#and({ css }).filter({ hasText });
  getByRole = (role: string, options: { name?: string; exact?: boolean } = {}): FoxLocator => this.#and({ role, ...options });
  getByText = (text: string): FoxLocator => this.#and({ text });
  getByLabel = (label: string): FoxLocator => this.#and({ label });
  filter = ({ hasText }: { hasText: string }): FoxLocator => this.#and({ hasText });
  first = (): FoxLocator => this.#and({ nth: 0 });
  last = (): FoxLocator => this.#and({ nth: -1 });
  nth = (nth: number): FoxLocator => this.#and({ nth });

  /** Calls a function of all elements in the page. */
  evaluateAll<T, A>(use: (elements: Element[], arg: A) => T, arg?: A): Promise<T> {
    const code = `(steps, arg) => (${use.toString()})((${resolve.toString()})(steps), arg)`;
    return this.#page.evaluate(`(${code})(${JSON.stringify(this.#steps)}, ${JSON.stringify(arg ?? null)})`) as Promise<T>;
  }
  /** Tries until something holds. @throws Error if it never does */
  async #until(holds: () => Promise<boolean>, what: string): Promise<void> {
    const end = Date.now() + this.#timeout();
    while (!(await holds())) {
      if (Date.now() > end) throw new Error(`${what}: ${JSON.stringify(this.#steps)}`);
      await pause(20);
    }
  }
  waitFor = ({ state = 'visible' }: { state?: 'visible' | 'hidden' | 'attached' | 'detached' } = {}): Promise<void> => {
    const check: Record<string, () => Promise<boolean>> = {
      attached: () => this.evaluateAll((all) => all.length > 0),
      detached: () => this.evaluateAll((all) => all.length === 0),
      visible: () => this.isVisible(),
      hidden: async () => !(await this.isVisible()),
    };
    return this.#until(check[state]!, `never ${state}`);
  };
  async elementHandle(): Promise<ElementHandle> {
    await this.waitFor({ state: 'attached' });
    const code = `((steps) => (${resolve.toString()})(steps)[0])(${JSON.stringify(this.#steps)})`;
    return (await this.#page.evaluateHandle(code)) as ElementHandle;
  }
  async evaluate<T>(use: (element: never, arg: unknown) => T, arg?: unknown): Promise<T> {
    return (await this.elementHandle()).evaluate(use as (element: unknown, arg: unknown) => T, arg);
  }
  count = (): Promise<number> => this.evaluateAll((all) => all.length);
  allTextContents = (): Promise<string[]> => this.evaluateAll((all) => all.map((each) => each.textContent));
  isVisible = (): Promise<boolean> =>
    this.#page.evaluate(
      `((all) => all.length > 0 && (${isShown.toString()})(all[0]))((${resolve.toString()})(${JSON.stringify(this.#steps)}))`,
    ) as Promise<boolean>;
  isHidden = async (): Promise<boolean> => !(await this.isVisible());
  textContent = (): Promise<string | null> => this.evaluate((element: Element) => element.textContent);
  innerHTML = (): Promise<string> => this.evaluate((element: Element) => element.innerHTML);
  innerText = (): Promise<string> => this.evaluate((element: HTMLElement) => element.innerText);
  inputValue = (): Promise<string> => this.evaluate((element: HTMLInputElement) => element.value);
  isChecked = (): Promise<boolean> => this.evaluate((element: HTMLInputElement) => element.checked);
  getAttribute = (name: string): Promise<string | null> =>
    this.evaluate((element: Element, of) => element.getAttribute(of as string), name);
  focus = (): Promise<void> => this.evaluate((element: HTMLElement) => element.focus());
  blur = (): Promise<void> => this.evaluate((element: HTMLElement) => element.blur());
  dispatchEvent = (type: string): Promise<void> =>
    this.evaluate((element: Element, of) => void element.dispatchEvent(new Event(of as string, { bubbles: true })), type);
  async click(): Promise<void> {
    await this.waitFor();
    await (await this.elementHandle()).click();
  }
  async check(): Promise<void> {
    if (!(await this.isChecked())) await this.click();
  }
  async uncheck(): Promise<void> {
    if (await this.isChecked()) await this.click();
  }
  async fill(value: string): Promise<void> {
    await this.waitFor();
    await this.evaluate((element: HTMLInputElement, now) => {
      element.focus();
      // (What React watches is the element's own setter.)
      Reflect.set(Object.getPrototypeOf(element) as object, 'value', now, element);
      element.dispatchEvent(new InputEvent('input', { bubbles: true, composed: true, inputType: 'insertText' }));
      element.dispatchEvent(new Event('change', { bubbles: true }));
    }, value);
  }
  async selectOption(value: string): Promise<void> {
    await this.waitFor();
    await this.evaluate((element: HTMLSelectElement, now) => {
      element.focus();
      for (const option of element.options) option.selected = option.value === now || option.label === now;
      for (const type of ['input', 'change']) element.dispatchEvent(new Event(type, { bubbles: true }));
    }, value);
  }
  async press(key: string): Promise<void> {
    await this.focus();
    await this.#page.keyboard.press(key as 'Enter');
  }
  async pressSequentially(text: string): Promise<void> {
    await this.focus();
    await this.#page.keyboard.type(text);
  }
}

/** What the console is given is handed out as it is, errors without their texts. */
const ERRORS_AS_TEXT = `for (const level of ['warn', 'error']) {
  const write = console[level].bind(console);
  console[level] = (...all) => write(...all.map((each) => (each instanceof Error ? each + ' ' + each.stack : each)));
}\n`;

class FoxPage {
  readonly #page: DrivenPage;
  #timeout = 8000;
  readonly keyboard: { press(key: string): Promise<void>; type(text: string): Promise<void> };
  constructor(page: DrivenPage) {
    this.#page = page;
    this.keyboard = { press: (key) => page.keyboard.press(key as 'Enter'), type: (text) => page.keyboard.type(text) };
  }
  setDefaultTimeout(timeout: number): void {
    // (It is started beside everything else, and takes longer than the other.)
    this.#timeout = 2 * timeout;
  }
  on(event: 'console' | 'pageerror', listener: (what: never) => void): void {
    if (event === 'pageerror') this.#page.on('pageerror', (error) => listener(error as never));
    else
      this.#page.on('console', (message) => {
        const type = message.type() === 'warn' ? 'warning' : message.type();
        listener({ type: () => type, text: () => message.text() } as never);
      });
  }
  async waitForEvent(event: 'pageerror'): Promise<unknown> {
    return new Promise((done) => this.#page.once(event, done));
  }
  async goto(url: string): Promise<void> {
    // What lies behind another page has no focus.
    await this.#page.bringToFront();
    await this.#page.goto(url);
  }
  setContent = (html: string): Promise<void> => this.#page.setContent(html);
  addScriptTag = ({ content }: { content: string }): Promise<unknown> =>
    this.#page.addScriptTag({ content: `${ERRORS_AS_TEXT}${content}` });
  addStyleTag = (style: { content: string }): Promise<unknown> => this.#page.addStyleTag(style);
  evaluate = (use: string | ((arg: unknown) => unknown), arg?: unknown): Promise<unknown> =>
    this.#page.evaluate(use as () => unknown, ...([arg].slice(0, arg === undefined ? 0 : 1) as []));
  waitForFunction = (use: string | ((arg: unknown) => unknown), arg?: unknown): Promise<unknown> =>
    this.#page.waitForFunction(
      use as () => unknown,
      { timeout: this.#timeout, polling: 30 },
      ...([arg].slice(0, arg === undefined ? 0 : 1) as []),
    );
  #root(): FoxLocator {
    return new FoxLocator(this.#page, [], () => this.#timeout);
  }
  locator = (css: string, options?: { hasText?: string }): FoxLocator => this.#root().locator(css, options);
  getByRole = (role: string, options?: { name?: string; exact?: boolean }): FoxLocator => this.#root().getByRole(role, options);
  getByText = (text: string): FoxLocator => this.#root().getByText(text);
  getByLabel = (label: string): FoxLocator => this.#root().getByLabel(label);
  close = (): Promise<void> => this.#page.close();
}

/** Starts Firefox. @returns it, as far as the tests use a browser */
export async function launchFirefox(): Promise<Browser> {
  const browser = await puppeteer.launch({
    browser: 'firefox',
    executablePath: process.env['FIREFOX'] ?? '/usr/bin/firefox-esr',
    headless: true,
  });
  const driven = {
    newPage: async () => new FoxPage(await browser.newPage()) as unknown as Page,
    version: () => browser.version(),
    close: () => browser.close(),
  };
  return driven as unknown as Browser;
}
