// Tide tables, made up: of an ordinary day, and of one with a spring tide.

import type { TideTable } from '../src/berth.ts';

const table = (low: number, high: number): TideTable =>
  ['Reedham', 'Saltby', 'Thorle'].flatMap((harbour, i) => [
    { harbour, from: '00:00', depth: low + i * 0.2 },
    { harbour, from: '10:00', depth: high + i * 0.2 },
    { harbour, from: '16:00', depth: low + i * 0.2 },
  ]);

export const TABLES: Readonly<Record<'today' | 'spring', TideTable>> = { today: table(1.2, 2.4), spring: table(0.6, 3.4) };
export const isTable = (name: string): name is keyof typeof TABLES => Object.hasOwn(TABLES, name);
