import { redrawForm } from 'upper-gate/server';
import { schema } from './forms.ts';
import { draw as drawNew } from './plain.ts';
import type { Refused } from './server.ts';

export { received } from './server.ts';
export const draw = async (posted?: Refused): Promise<string> => (posted ? redrawForm(drawNew(), { schema, ...posted }) : drawNew());
