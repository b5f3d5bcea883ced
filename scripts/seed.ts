// Where the random values of properties start: at the same place in every run, so that what CI says of a commit depends on the commit
// alone. `SEED=$RANDOM npm test` looks elsewhere.

import fc from 'fast-check';

fc.configureGlobal({ ...fc.readConfigureGlobal(), seed: Number(process.env['SEED'] ?? 20_261) });
