// How the pages speak with their server.

import type { AskRegister, Passage, RegisterEntry } from './passage.ts';

/** How the server behaves: a switch for the demo, told in a header. */
export type Weather = 'fair' | 'slow' | 'gone';

let weather: Weather = 'fair';

export function setWeather(to: Weather): void {
  weather = to;
}

const headers = (): Record<string, string> => ({ 'x-demo-weather': weather });

export const askRegister: AskRegister = async (registration, signal) => {
  const response = await fetch(`/api/register/${encodeURIComponent(registration)}`, { signal, headers: headers() });
  if (!response.ok) throw new Error(`The register answered with status ${response.status}.`);
  return (await response.json()) as RegisterEntry;
};

/** Posts a booking. The response goes to the gate as it is: it knows a refusal when it sees one. */
export function book(passage: Passage, signal: AbortSignal): Promise<Response> {
  const { name, size, type } = passage.insurance;
  return fetch('/api/bookings', {
    method: 'POST',
    signal,
    headers: { ...headers(), 'content-type': 'application/json' },
    // The office keeps which certificate was shown, not the certificate.
    body: JSON.stringify({ ...passage, insurance: { name, size, type } }),
  });
}

/** The reference of a booking that was accepted. */
export const referenceIn = async (reply: unknown): Promise<string> =>
  ((await (reply as Response).json()) as { reference: string }).reference;
