// What the English catalogue says. Tests assert codes and params, and leave the words to messages.test.ts: where a page shows
// a message, they compare with what the catalogue makes of it.

import * as en from '../src/messages/english.ts';

type Worded = Exclude<keyof typeof en, 'locale'>;

export const worded = (code: Worded, label: string, params: Readonly<Record<string, unknown>> = {}): string => en[code]({ label, ...params });
