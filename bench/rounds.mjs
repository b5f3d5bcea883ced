// Comparing two ways in one run: alternating rounds, and the median of their ratios, so that a noisy machine does not matter.

import { appendFileSync } from 'node:fs';

// Counts all calls: no call may find the value that it is about to set.
let count = 0;

/** The time of one call, in microseconds, over as many calls as make up a round. */
function timeOf(run, calls) {
  const start = process.hrtime.bigint();
  for (let i = 0; i < calls; i += 1) run((count += 1));
  return Number(process.hrtime.bigint() - start) / 1000 / calls;
}

/** Milliseconds for which both ways run before they are measured. */
const WARM_UP = 300;

const median = (values) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)];

/**
 * Measures two functions against each other.
 *
 * @returns microseconds of each, and how many times as long the first takes
 */
export function compare(run, baseline, { rounds = 21, milliseconds = 12 } = {}) {
  // Until engines have compiled both: what a program does once is not what it does all day.
  const end = performance.now() + WARM_UP;
  while (performance.now() < end) for (const f of [run, baseline]) timeOf(f, 50);
  const callsOf = (f) => {
    return Math.max(1, Math.ceil((milliseconds * 1000) / Math.max(0.05, timeOf(f, 20))));
  };
  const calls = [callsOf(run), callsOf(baseline)];
  const times = [[], []];
  for (let round = 0; round < rounds; round += 1) {
    // Whoever goes first may find a colder machine.
    for (const which of round % 2 ? [1, 0] : [0, 1]) times[which].push(timeOf([run, baseline][which], calls[which]));
  }
  return compared(times);
}

/** @param times of ours and of theirs, by round: the machine may change its speed from one to the next, not within one */
export function compared([ours, theirs]) {
  const ratio = median(ours.map((time, round) => time / theirs[round]));
  return { ours: median(ours), theirs: median(theirs), ratio };
}

/**
 * Notes a figure for the charts, if the run is recorded (see run.mjs).
 *
 * @param figure `id`, `what`, the `ratio`, and the `budget` if there is one
 */
export function note(figure) {
  const file = process.env.BENCH_FIGURES;
  if (file) appendFileSync(file, `${JSON.stringify(figure)}\n`);
}

/** Prints a line of a table. */
export function report(id, what, { ours, theirs, ratio }, budget) {
  note({ id, what, ratio, budget });
  const number = (value) => (value >= 100 ? value.toFixed(0) : value.toPrecision(3)).padStart(8);
  const verdict = budget === undefined ? '' : ratio <= budget ? `within ${budget}x` : `OVER ${budget}x`;
  console.log(`${id.padEnd(4)} ${what.padEnd(62)} ${number(ours)} µs ${number(theirs)} µs ${number(ratio)}x  ${verdict}`);
}
