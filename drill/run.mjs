// The attacks that the library has to hold against, as scripts: `npm run drill`. Prints what was tried and what held.
//
//   node drill/run.mjs            those that take seconds
//   node drill/run.mjs --long     all, also a minute of hostile clients against the demo
//   node drill/run.mjs patterns   those whose name holds a word
import { attacks as callbacks } from './callbacks.mjs';
import { attacks as documents } from './documents.mjs';
import { attacks as demo } from './demo.mjs';
import { attacks as pages } from './pages.mjs';
import { attacks as requests } from './requests.mjs';
import { attacks as travel } from './travel.mjs';
import { attacks as values } from './values.mjs';

const words = process.argv.slice(2).filter((word) => !word.startsWith('--'));
const isLong = process.argv.includes('--long');
const chosen = [...requests, ...pages, ...values, ...travel, ...callbacks, ...documents, ...demo].filter(({ name, long }) =>
  words.length > 0 ? words.some((word) => name.includes(word)) : isLong || !long,
);

let tried = 0;
let held = 0;
for (const { name, run } of chosen) {
  const failures = [];
  const facts = [];
  let count = 0;
  /** Notes one try. @param what describes the failure */
  const holds = (condition, what) => {
    count += 1;
    if (!condition) failures.push(what);
  };
  const started = performance.now();
  try {
    await run({ holds, note: (fact) => facts.push(fact), isLong });
  } catch (error) {
    holds(false, `the attack ended with ${error.stack}`);
  }
  tried += count;
  held += count - failures.length;
  const seconds = ((performance.now() - started) / 1000).toFixed(1);
  console.log(`${name}: tried ${count}, held ${count - failures.length} (${[`${seconds} s`, ...facts].join(', ')})`);
  for (const failure of failures.slice(0, 5)) console.log(`  did not hold: ${failure}`);
}
console.log(`tried ${tried}, held ${held}`);
process.exit(tried > 0 && held === tried ? 0 : 1);
