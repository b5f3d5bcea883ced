// What the playground and the page that runs a schema say to each other. They share no origin.

/** The ways in which a schema is shown. */
export type View = 'findings' | 'state' | 'data' | 'jsonSchema' | 'types' | 'markdown' | 'html';

/** To the page that runs: a module of CommonJS, or whether the form is inspected. */
export type Run = { readonly code: string } | { readonly inspects: boolean };

/** From it: texts to show, or what went wrong. Only what has changed. */
export type Told = { readonly ready: true } | { readonly views: Partial<Record<View, string>> } | { readonly error: string };
