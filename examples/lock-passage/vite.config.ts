import { parseHTML } from 'linkedom';
import type { Node } from 'upper-gate';
import { toAttributes } from 'upper-gate/html';
import { defineConfig, type Plugin } from 'vite';
import { passageForm } from './src/passage.ts';

const WHOLES = ['group', 'list', 'variant'];

/** The field at a path, through groups. */
function fieldAt(form: Node, path: string): Node | undefined {
  return path
    .split('.')
    .reduce<Node | undefined>((node, key) => (node as { fields?: Readonly<Record<string, Node>> } | undefined)?.fields?.[key], form);
}

/** Gives the controls of the plain page the attributes that their fields have in HTML: until there is script, the browser judges. */
function nativeAttributes(): Plugin {
  const form = passageForm(() => Promise.resolve({ known: false }));
  return {
    name: 'native-attributes',
    transformIndexHtml(html, { path }) {
      if (!path.endsWith('plain.html')) return html;
      const { document } = parseHTML(html);
      for (const control of document.querySelectorAll<HTMLElement>('#booking :is(input, select, textarea)[name]')) {
        const field = fieldAt(form, control.getAttribute('name')!);
        if (!field || WHOLES.includes(field.kind)) continue;
        // Each box of a group would have to be ticked; and the page has its own words on types.
        for (const [name, value] of Object.entries(toAttributes(field)))
          if (value !== undefined && name !== 'type' && !(field.kind === 'choices'))
            control.setAttribute(name, value === true ? '' : value);
      }
      return `<!doctype html>\n${document.documentElement.outerHTML}`;
    },
  };
}

export default defineConfig({
  plugins: [nativeAttributes()],
  server: { proxy: { '/api': 'http://localhost:8417' } },
  build: { rolldownOptions: { input: ['index.html', 'plain.html', 'manifest.html'] } },
});
