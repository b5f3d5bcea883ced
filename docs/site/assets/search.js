// The search of the documentation: as you type, from an index that comes with the pages.

import MiniSearch from './minisearch.js';
import { SEARCH_OPTIONS } from './searchOptions.js';

const LIMIT = 12;
const root = new URL('../', import.meta.url);
const field = document.querySelector('#search');
const place = document.querySelector('#results');
const status = document.querySelector('#found');

let loading;
/** The index, fetched when somebody first searches. */
const load = () =>
  (loading ??= fetch(new URL('assets/search.json', root))
    .then((response) => response.text())
    .then((text) => MiniSearch.loadJSON(text, SEARCH_OPTIONS)));

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
  const index = await load();
  if (wanted !== field.value.trim()) return;
  // All words; where no section has them all, as many as there are.
  const all = wanted === '' ? [] : index.search(wanted);
  const results = all.length > 0 ? all : index.search(wanted, { combineWith: 'OR' });
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
