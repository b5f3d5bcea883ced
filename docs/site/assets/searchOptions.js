/** How pages are indexed and searched: the same when the index is made and when it is read. */
export const SEARCH_OPTIONS = {
  fields: ['title', 'page', 'text'],
  storeFields: ['title', 'page', 'text'],
  // Saves, saved and saving are found by save.
  processTerm: (word) => word.toLowerCase().replace(/(?<=\w{3})(?:ing|ed|es|s|e)$/, ''),
  searchOptions: { boost: { title: 4, page: 2 }, prefix: true, fuzzy: 0.15, combineWith: 'AND' },
};
