// Finding sections of the documentation by what somebody asks, in an index that comes with the pages.

import MiniSearch from './minisearch.js';
import { SEARCH_OPTIONS } from './searchOptions.js';

const root = new URL('../', import.meta.url);

let loading;
/** The index, fetched when somebody first searches. */
const load = () =>
  (loading ??= fetch(new URL('assets/search.json', root))
    .then((response) => response.text())
    .then((text) => MiniSearch.loadJSON(text, SEARCH_OPTIONS)));

/** What is begun with is still being typed: the last word. */
const lastIsBegun = (term, at, terms) => at === terms.length - 1;

/**
 * What is taken for an answer, one behind the other: the sections that have all words as they are, then those that have as many of them as
 * can be; and only if there are none, those that have words much like them.
 */
const WAYS = [
  { prefix: lastIsBegun },
  { prefix: lastIsBegun, combineWith: 'OR' },
  { prefix: true, fuzzy: (term) => (term.length > 4 ? 0.2 : false), combineWith: 'OR' },
];

/** So many answers are enough. */
const ENOUGH = 10;

/**
 * Finds sections.
 *
 * @param wanted what somebody asks, in their words
 * @returns the sections, the likeliest first: `{ id, title, page, text, terms }`; `id` is the address, from the root of the pages
 */
export async function find(wanted) {
  const index = await load();
  const [all, some, alike] = WAYS.map((way) => () => index.search(wanted, way));
  const first = all();
  if (first.length >= ENOUGH) return first;
  const known = new Set(first.map(({ id }) => id));
  const found = [...first, ...some().filter(({ id }) => !known.has(id))];
  return found.length > 0 ? found : alike();
}
