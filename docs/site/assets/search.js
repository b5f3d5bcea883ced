// The search of the documentation: as you type, from an index that comes with the pages.

import { find } from './find.js';

const LIMIT = 12;
const root = new URL('../', import.meta.url);
const field = document.querySelector('#search');
const place = document.querySelector('#results');
const status = document.querySelector('#found');

/** The words around the first match. */
function excerpt({ text, terms }) {
  const at = Math.max(0, ...terms.map((term) => text.toLowerCase().indexOf(term)));
  const start = at < 60 ? 0 : text.indexOf(' ', at - 60) + 1;
  return `${start > 0 ? '… ' : ''}${text.slice(start, start + 160)}${start + 160 < text.length ? ' …' : ''}`;
}

function entryOf(result) {
  const item = document.createElement('li');
  const link = document.createElement('a');
  link.href = new URL(result.id, root);
  link.textContent = result.page ? `${result.page}: ${result.title}` : result.title;
  const words = document.createElement('p');
  words.textContent = excerpt(result);
  item.append(link, words);
  return item;
}

async function search() {
  const wanted = field.value.trim();
  const results = wanted === '' ? [] : await find(wanted);
  if (wanted !== field.value.trim()) return;
  place.hidden = wanted === '';
  place.replaceChildren(...results.slice(0, LIMIT).map(entryOf));
  status.textContent = wanted === '' ? '' : results.length === 0 ? `Nothing found for “${wanted}”` : `${results.length} found`;
}

field.addEventListener('input', search);
// Another page may have asked.
field.value = new URLSearchParams(location.search).get('q') ?? field.value;
if (field.value !== '') void search();
field.form.addEventListener('submit', (event) => {
  event.preventDefault();
  void search().then(() => place.querySelector('a')?.focus());
});
field.form.addEventListener('keydown', (event) => {
  if (event.key !== 'Escape') return;
  field.value = '';
  place.hidden = true;
  status.textContent = '';
  field.focus();
});
