// How the pages speak with their server.

import type { AskRegister, Passage, RegisterEntry } from './passage.ts';

/** How the server behaves: a switch for the demo, told in a header. */
export type Weather = 'fair' | 'slow' | 'gone';

let weather: Weather = 'fair';

export function setWeather(to: Weather): void {
  weather = to;
}

/** The server answers in the language of the page. */
const headers = (): Record<string, string> => ({ 'x-demo-weather': weather, 'accept-language': document.documentElement.lang });

export const askRegister: AskRegister = async (registration, signal) => {
  const response = await fetch(`/api/register/${encodeURIComponent(registration)}`, { signal, headers: headers() });
  if (!response.ok) throw new Error(`The register answered with status ${response.status}.`);
  return (await response.json()) as RegisterEntry;
};

/** Data as the fields of a form: `crew.0.name`. What is not there is not sent. */
function append(form: FormData, path: string, value: unknown): FormData {
  if (value instanceof Blob) form.append(path, value);
  else if (typeof value === 'object' && value !== null)
    for (const [key, inner] of Object.entries(value)) append(form, path === '' ? key : `${path}.${key}`, inner);
  else if (typeof value === 'string' || typeof value === 'number') form.append(path, String(value));
  else if (value === true) form.append(path, 'on');
  return form;
}

/** Posts a booking, as the browser would. The response goes to the gate as it is: it knows a refusal when it sees one. */
export function book(passage: Passage, signal: AbortSignal): Promise<Response> {
  return fetch('/api/bookings', { method: 'POST', signal, headers: headers(), body: append(new FormData(), '', passage) });
}

/** The reference of a booking that was accepted. */
export const referenceIn = async (reply: unknown): Promise<string> =>
  ((await (reply as Response).json()) as { reference: string }).reference;
