// What the server of the scenes does with a form that was posted.

import type { Finding } from 'upper-gate';
import { validateRequest } from 'upper-gate/server';
import { schema } from './forms.ts';

export interface Refused {
  readonly raw: unknown;
  readonly findings: readonly Finding[];
}

/** The answer to a form: what was wrong, and what was sent; nothing if it was accepted. */
export async function received(body: string): Promise<Refused | undefined> {
  const headers = { 'content-type': 'application/x-www-form-urlencoded' };
  const result = await validateRequest(schema, new Request('http://locks.test/send', { method: 'POST', headers, body }));
  return result.ok ? undefined : { raw: result.raw, findings: result.findings };
}
