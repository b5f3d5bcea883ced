// Setting attributes of the author's elements, and giving them back as they were.

/** What attributes of an element were, by name. (An object: of a thousand controls, as many maps would be felt.) */
type Before = Record<string, string | null>;

/** Remembers what the author's attributes were before they were set. */
export class AttributeWriter {
  readonly #before = new Map<Element, Before>();

  /** Sets an attribute, or removes it (`null`); touches the element only where that makes a difference. */
  set(element: Element, name: string, value: string | null): void {
    const now = element.getAttribute(name);
    if (now === value) return;
    const before = this.#before.get(element);
    if (before === undefined) this.#before.set(element, { [name]: now });
    else if (!(name in before)) before[name] = now;
    apply(element, name, value);
  }

  /** What the author wrote. */
  authored(element: Element, name: string): string | null {
    const before = this.#before.get(element);
    return before !== undefined && name in before ? before[name]! : element.getAttribute(name);
  }

  /** Gives an element its attributes back, and forgets it. */
  release(element: Element): void {
    for (const [name, value] of Object.entries(this.#before.get(element) ?? {})) apply(element, name, value);
    this.#before.delete(element);
  }

  /** Gives every attribute back. */
  restore(): void {
    for (const element of this.#before.keys()) this.release(element);
  }
}

function apply(element: Element, name: string, value: string | null): void {
  if (value === null) element.removeAttribute(name);
  else element.setAttribute(name, value);
}

let made = 0;

/** The id of an element; one is made where it has none. */
export function idOf(element: Element, attributes: AttributeWriter): string {
  if (element.id === '') attributes.set(element, 'id', `gate-${(made += 1)}`);
  return element.id;
}
