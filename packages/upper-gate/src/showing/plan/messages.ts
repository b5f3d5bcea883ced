// How messages stand in a place: an element for each, so that they read apart.

import type { Finding } from '../../schema/finding.ts';

/** The tag of the element of each message in a place, by the tag of the place. Spans need a blank between them. */
export const messageTag = (place: string): 'li' | 'div' | 'span' => (/^[uo]l$/i.test(place) ? 'li' : /^div$/i.test(place) ? 'div' : 'span');

/** Joins findings into one text, as they are read out. */
export const textOf = (findings: readonly Pick<Finding, 'message'>[]): string => findings.map(({ message }) => message).join(' ');
