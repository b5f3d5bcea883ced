/** What custom elements extend; where there is no page, nothing that could be put on one. */
export const PageElement: typeof HTMLElement =
  (globalThis as { readonly HTMLElement?: typeof HTMLElement }).HTMLElement ?? (Object as unknown as typeof HTMLElement);
