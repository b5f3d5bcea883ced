// Solid draws from templates, by `innerHTML`. Where a page requires Trusted Types, it needs a policy for that: Solid's compiler writes the
// templates, and what users type is never in one.

interface TrustedTypes {
  createPolicy(name: string, rules: { createHTML(html: string): string }): unknown;
}
const { trustedTypes } = globalThis as { readonly trustedTypes?: TrustedTypes };
trustedTypes?.createPolicy('default', { createHTML: (html) => html });
