import { parseHTML } from 'linkedom';
import { describeSchema, type SchemaDescription } from 'upper-gate/interop';
import { defineConfig, type Plugin } from 'vite';
import { passageForm } from './src/passage.ts';

/** What is declared at a path, through groups. */
const declaredAt = (form: SchemaDescription, path: string): SchemaDescription | undefined =>
  path.split('.').reduce<SchemaDescription | undefined>((part, key) => part?.fields?.[key], form);

/** Gives the controls of the plain page the attributes that their fields have in HTML: the browser validates until the script has loaded. */
function nativeAttributes(): Plugin {
  const form = describeSchema(passageForm(() => Promise.resolve({ known: false })));
  return {
    name: 'native-attributes',
    transformIndexHtml(html, { path }) {
      if (!path.endsWith('plain.html')) return html;
      const { document } = parseHTML(html);
      for (const control of document.querySelectorAll<HTMLElement>('#booking :is(input, select, textarea)[name]')) {
        const { kind, attributes = {} } = declaredAt(form, control.getAttribute('name')!) ?? {};
        // Each box of a group would have to be ticked; and the page has its own words on types.
        for (const [name, value] of Object.entries(attributes))
          if (value !== undefined && name !== 'type' && kind !== 'choices') control.setAttribute(name, value === true ? '' : value);
      }
      return `<!doctype html>\n${document.documentElement.outerHTML}`;
    },
  };
}

export default defineConfig({
  plugins: [nativeAttributes()],
  server: { proxy: { '/api': 'http://localhost:8417', '/interface/': 'http://localhost:8417' } },
  build: {
    rolldownOptions: {
      input: ['index.html', 'plain.html', 'manifest.html', 'berth.html', 'booked.html', 'nowhere.html', 'interface.html'],
    },
  },
});
