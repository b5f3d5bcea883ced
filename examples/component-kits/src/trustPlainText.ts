// Some kits set `innerHTML`: to styles, or to nothing. The server's policy (Trusted Types) refuses that, unless the page has a policy of this
// name, which allows text without markup. Import this before the kit.

interface TrustedTypes {
  createPolicy(name: string, rules: { createHTML(text: string): string | undefined }): void;
}

(globalThis as { trustedTypes?: TrustedTypes }).trustedTypes?.createPolicy('default', {
  createHTML: (text) => (text.includes('<') ? undefined : text),
});
