import { readFileSync } from 'node:fs';
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
      if (!path.endsWith('plain.html') && !path.endsWith('elements.html')) return html;
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

/** The page of the custom elements: the plain one, with an element around its form, and two fields that are elements of the harbour's own. */
function elementsPage(): Plugin {
  return {
    name: 'elements-page',
    transformIndexHtml: {
      order: 'pre',
      handler(html, { path }) {
        if (!path.endsWith('elements.html')) return html;
        const { document } = parseHTML(readFileSync(new URL('plain.html', import.meta.url), 'utf8'));
        const own = parseHTML(html).document;
        document.title = own.title;
        document.querySelector('script')!.setAttribute('src', '/src/elements.ts');
        const around = document.createElement('upper-gate-form');
        around.setAttribute('gate', 'booking');
        const form = document.querySelector('form')!;
        form.replaceWith(around);
        around.append(form);
        for (const name of ['vessel', 'registration']) {
          const field = document.createElement('harbour-field');
          field.setAttribute('name', name);
          field.setAttribute('class', 'field');
          document.querySelector(`#${name}`)!.closest('.field')!.replaceWith(field);
        }
        document.body.append(own.querySelector('template')!);
        return `<!doctype html>\n${document.documentElement.outerHTML}`;
      },
    },
  };
}

export default defineConfig({
  plugins: [elementsPage(), nativeAttributes()],
  server: { proxy: { '/api': 'http://localhost:8417', '/interface/': 'http://localhost:8417' } },
  build: {
    rolldownOptions: {
      input: ['index.html', 'plain.html', 'elements.html', 'manifest.html', 'berth.html', 'booked.html', 'nowhere.html', 'interface.html'],
    },
  },
});
