// The library's tests, as the mutation runner runs them.

import { fileURLToPath } from 'node:url';
import jest from '../../jest.config.js';

const library = jest.projects.find(({ displayName }) => displayName === 'library');

export default {
  ...library,
  rootDir: fileURLToPath(new URL('../../packages/upper-gate', import.meta.url)),
  // Not in pages that are imitated: the parts that are changed have no interface code.
  testMatch: ['<rootDir>/__tests__/*.test.ts'],
  testEnvironment: '@stryker-mutator/jest-runner/jest-env/node',
};
