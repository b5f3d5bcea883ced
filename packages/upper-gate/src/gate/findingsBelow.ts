// The findings of a part of a form.

import type { Finding } from '../schema/finding.ts';
import type { BaseNode } from './node.ts';

/** All findings at a node and below, in schema order: those of a whole behind those of its parts. */
export function findingsBelow(node: BaseNode): readonly Finding[] {
  const all: Finding[] = [];
  const collect = (at: BaseNode): void => {
    if (at.found === 0) return;
    at.children.forEach(collect);
    for (const finding of at.findings) all.push(finding);
  };
  collect(node);
  return all;
}
