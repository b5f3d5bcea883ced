// Jest's globalSetup of the tests that run what was built: nothing older than its sources is ever tested.
import { build } from './build.mjs';

// (`npm test` builds once, before the tests that need it.)
let done = process.env['BUILT'] !== undefined;
export default () => {
  if (!done) build();
  done = true;
};
