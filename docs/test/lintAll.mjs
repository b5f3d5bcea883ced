// Prints what `lint` finds in the schemas that modules export: an object by module and export, as JSON.

import { isSchema } from 'upper-gate';
import { lint } from 'upper-gate/lint';

const found = {};
let count = 0;
for (const file of process.argv.slice(2)) {
  const exported = await import(file);
  for (const [name, schema] of Object.entries(exported)) {
    if (!isSchema(schema)) continue;
    count += 1;
    const findings = await lint(schema);
    if (findings.length > 0) found[`${file.replace(/^.*\//, '')} ${name}`] = findings.map(({ id, path, what }) => `${path} ${id}: ${what}`);
  }
}
console.log(JSON.stringify({ count, found }, null, 1));
