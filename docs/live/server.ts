// The server of the recipes, simulated on the page: it works without a network.

declare global {
  /** The part of a page that the recipe on dialogs loads. */
  const INSURANCE: string;
}

export type Mood = 'quick' | 'slow' | 'failing' | 'refusing';

/** How long each mood takes, in milliseconds. */
const WAIT: Readonly<Record<Mood, number>> = { quick: 150, slow: 2500, failing: 600, refusing: 300 };

const json = (value: unknown, status = 200, type = 'application/json'): Response =>
  new Response(JSON.stringify(value), { status, headers: { 'content-type': type } });

const BERTHS: Readonly<Record<string, readonly object[]>> = {
  Oster: [
    { id: 'o1', name: 'North quay 1' },
    { id: 'o2', name: 'North quay 2' },
  ],
  Wester: [{ id: 'w1', name: 'Island, outside' }],
};

/** What is asked for, by the path. */
const FOUND: readonly (readonly [path: RegExp, answer: (match: readonly string[]) => Response])[] = [
  [/^\/registrations\/(.*)$/, ([, number]) => new Response(null, { status: number === 'OT-1204' ? 200 : 404 })],
  [/^\/levels\/yesterday$/, () => json(1.4)],
  [/^\/harbours\/(.*)\/berths$/, ([, harbour]) => json(BERTHS[harbour ?? ''] ?? [])],
  [/^\/insurance\.html$/, () => new Response(INSURANCE, { headers: { 'content-type': 'text/html' } })],
];

/** The first field of what was sent. */
async function firstField(request: Request): Promise<string> {
  const isForm = (request.headers.get('content-type') ?? '').startsWith('multipart/');
  const data: object = isForm ? Object.fromEntries(await request.formData()) : ((await request.json()) as object);
  return Object.keys(data)[0] ?? '';
}

/**
 * Answers a request.
 *
 * @returns the answer, after as long as the mood takes
 * @throws TypeError as `fetch` does, where there is no connection
 */
export async function answerTo(request: Request, mood: Mood): Promise<Response> {
  await new Promise<void>((resolve, reject) => {
    setTimeout(resolve, WAIT[mood]);
    request.signal.addEventListener('abort', () => reject(request.signal.reason as Error));
  });
  if (mood === 'failing') throw new TypeError('Failed to fetch');
  if (request.method !== 'GET') {
    if (mood !== 'refusing') return json({}, 201);
    const errors = [{ pointer: `/${await firstField(request)}`, detail: 'The server refuses this' }];
    return json({ title: 'Refused', status: 422, errors }, 422, 'application/problem+json');
  }
  const { pathname } = new URL(request.url);
  for (const [path, answer] of FOUND) {
    const match = path.exec(pathname);
    if (match) return answer(match.map(decodeURIComponent));
  }
  return new Response(null, { status: 404 });
}
