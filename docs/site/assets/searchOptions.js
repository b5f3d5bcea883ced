/** How pages are indexed and searched: the same when the index is made and when it is read. */

/** What questions are made of, whatever they ask about. */
const EVERYWHERE = new Set(
  'a an and are as at be by can could do does for from get has have how i if in into is it its make me my not of on one or own should show so some that the their them then there this to use used using want what when where which while who why will with without you your'.split(
    ' ',
  ),
);

export const SEARCH_OPTIONS = {
  fields: ['title', 'page', 'words', 'text'],
  storeFields: ['title', 'page', 'text', 'isReference'],
  // Saves, saved and saving are found by save.
  processTerm(word) {
    const plain = word.toLowerCase();
    return EVERYWHERE.has(plain) ? null : plain.replace(/(?<=\w{3})(?:ing|ed|es|s|e)$/, '');
  },
  searchOptions: {
    boost: { title: 4, words: 3, page: 2 },
    // Of a guide, there is more to read than of a single function.
    boostDocument: (id, term, { isReference }) => (isReference ? 0.4 : 1),
    combineWith: 'AND',
  },
};
