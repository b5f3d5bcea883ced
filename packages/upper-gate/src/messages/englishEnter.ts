// English: what each kind of field and each type of text asks for. One export each, so that a bundle holds only what it
// uses; ./en.ts brings them together under their codes.

import type { MessageParams as P } from './text.ts';

const enter =
  (what: string, example?: string) =>
  ({ label, example: own }: P): string => {
    // A number as this field reads it, where the field knows one.
    const such = typeof own === 'string' ? own : example;
    return `Enter ${what} for ${label}${such === undefined ? '' : `, such as ${such}`}`;
  };
export const badValue = /* @__PURE__ */ enter('a valid value');
export const badNumber = /* @__PURE__ */ enter('a number', '3.5');
export const badInteger = /* @__PURE__ */ enter('a whole number');
export const badDate = /* @__PURE__ */ enter('a valid date', '2027-05-01');
export const badTime = /* @__PURE__ */ enter('a valid time', '09:30');
export const badDateTime = /* @__PURE__ */ enter('a valid date and time', '2027-05-01T09:30');
export const badMonth = /* @__PURE__ */ enter('a valid month', '2027-05');
export const badWeek = /* @__PURE__ */ enter('a valid week', '2027-W18');
export const badColor = /* @__PURE__ */ enter('a color', '#14505c');
export const badJson = /* @__PURE__ */ enter('JSON', '["a", 1]');
export const noEmail = /* @__PURE__ */ enter('an e-mail address', 'name@example.com');
export const noUrl = /* @__PURE__ */ enter('a web address', 'https://example.com');
export const noIpAddress = /* @__PURE__ */ enter('an IP address', '192.0.2.1');
export const noCardNumber = ({ label }: P): string => `Check the card number in ${label}`;
export const noTimestamp = /* @__PURE__ */ enter('a date and time with its zone', '2027-05-01T09:30:00Z');
export const noZonedTime = /* @__PURE__ */ enter('a time with its zone', '09:30:00Z');
export const noUuid = /* @__PURE__ */ enter('a UUID');
