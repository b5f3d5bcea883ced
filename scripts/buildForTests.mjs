// Jest's globalSetup of the tests that run what was built: nothing older than its sources is ever tested.
import { build } from './build.mjs';

let done = false;
export default () => {
  if (!done) build();
  done = true;
};
