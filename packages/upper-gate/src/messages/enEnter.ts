// English: what each kind of field and each type of text wants. Said one by one, so that a bundle holds only its own; ./en.ts
// brings them together under their codes.

import type { MessageParams as P } from './text.ts';

const enter =
  (what: string) =>
  ({ label }: P): string =>
    `${label}: enter ${what}`;
export const badValue = /* @__PURE__ */ enter('a value that can be read');
export const badNumber = /* @__PURE__ */ enter('a number, such as 12 or 3.5');
export const badInteger = /* @__PURE__ */ enter('a whole number');
export const badDate = /* @__PURE__ */ enter('a date that exists, as year-month-day');
export const badTime = /* @__PURE__ */ enter('a time, as hours:minutes');
export const badDateTime = /* @__PURE__ */ enter('a date and a time that exist');
export const badMonth = /* @__PURE__ */ enter('a month, as year-month');
export const badWeek = /* @__PURE__ */ enter('a week that exists, as 2027-W18');
export const badColor = /* @__PURE__ */ enter('a colour, as #14505c');
export const noEmail = /* @__PURE__ */ enter('an address such as name@example.com');
export const noUrl = /* @__PURE__ */ enter('an address such as https://example.com');
export const noIpAddress = /* @__PURE__ */ enter('an IP address');
export const noCardNumber = /* @__PURE__ */ enter('a card number without a slip');
export const otherType = /* @__PURE__ */ enter('a value of the right type');
