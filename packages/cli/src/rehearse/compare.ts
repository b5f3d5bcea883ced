// How a timeline differs from the one that is expected, in words.

import type { Timeline, TimelineMoment } from 'upper-gate/testing';

const placed = ({ at, path, text }: TimelineMoment): string => `at ${at} ms, ${path === '' ? 'the form' : path}: ${text}`;

/** How many of the following differences are only counted. */
const MOST = 3;

/** The differences of a timeline from another: nothing if there are none. */
export function differences(name: string, expected: Timeline | undefined, actual: Timeline): readonly string[] {
  if (!expected) return [`${name}: there is no such timeline in the expected ones. Add it with --update.`];
  const found: string[] = [];
  const [before, now] = [expected.moments, actual.moments].map((moments) => moments.map(placed)) as [string[], string[]];
  for (let i = 0; i < Math.max(before.length, now.length); i += 1) {
    const [was, is] = [before[i], now[i]];
    if (was === is) continue;
    if (was === undefined) found.push(`${name}: it goes on, ${is!}`);
    else if (is === undefined) found.push(`${name}: it ends; expected was, ${was}`);
    else found.push(`${name}: expected was, ${was}; there is, ${is}`);
  }
  if (found.length > MOST) return [...found.slice(0, MOST), `${name}: and ${found.length - MOST} more differences.`];
  if (found.length === 0 && JSON.stringify(expected) !== JSON.stringify(actual))
    return [`${name}: it lasts ${actual.length} ms, expected were ${expected.length} ms, or its lanes differ.`];
  return found;
}
