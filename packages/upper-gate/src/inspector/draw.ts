// Makes elements, from texts only.

type Child = Node | string | undefined | false;

/** Makes an element. @param attributes by name; `undefined` leaves one out */
export function h<K extends keyof HTMLElementTagNameMap>(
  name: K,
  attributes: Readonly<Record<string, string | undefined>> = {},
  ...children: readonly Child[]
): HTMLElementTagNameMap[K] {
  const element = document.createElement(name);
  for (const [key, value] of Object.entries(attributes)) if (value !== undefined) element.setAttribute(key, value);
  element.append(...children.filter((child) => child !== undefined && child !== false));
  return element;
}

/** A button that does something. */
export function button(text: string, attributes: Readonly<Record<string, string | undefined>>, act: () => void): HTMLButtonElement {
  const element = h('button', { type: 'button', ...attributes }, text);
  element.addEventListener('click', act);
  return element;
}
