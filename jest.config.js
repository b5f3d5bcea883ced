import { fileURLToPath } from 'node:url';

// Tests run on the TypeScript sources. What can only run as it is published (the command, the pages and server of the
// examples, the examples of the docs) is built first, by globalSetup, wherever a source is newer than its build.

// As the compiler writes classes: a field that is only declared is not there.
const jsc = { target: 'es2022', parser: { syntax: 'typescript' }, transform: { useDefineForClassFields: false } };
const transform = { '^.+\\.ts$': ['@swc/jest', { jsc }] };
const setupFiles = [fileURLToPath(new URL('scripts/seed.ts', import.meta.url))];
const library = {
  setupFiles,
  // Of packages, what Node takes, also where a page is imitated.
  testEnvironmentOptions: { customExportConditions: ['node', 'node-addons'] },
  // Some packages are ES modules only.
  transform: { ...transform, '/node_modules/.+\\.js$': ['@swc/jest', { jsc: { target: 'es2022' } }] },
  transformIgnorePatterns: ['/node_modules/(?!intl-messageformat/|@formatjs/)'],
  moduleNameMapper: {
    '^#development$': '<rootDir>/src/development/on.ts',
    '^#devWarnings$': '<rootDir>/src/showing/devWarnings.ts',
    '^#hookWarnings$': '<rootDir>/src/dom/hookWarnings.ts',
    '^upper-gate$': '<rootDir>/src/index.ts',
    '^upper-gate/messages/(.*)$': '<rootDir>/src/messages/$1.ts',
    '^upper-gate/(.*)$': '<rootDir>/src/$1/index.ts',
  },
};
const setUpBy = (script) => ({ transform, setupFiles, globalSetup: fileURLToPath(new URL(`scripts/${script}`, import.meta.url)) });
const built = setUpBy('buildForTests.mjs');
const withDemo = setUpBy('emptyDatabase.mjs');

export default {
  // The whole matrices of CI take minutes on a busy machine; what waits in vain is ended by the browser's own limits before.
  testTimeout: process.env.THOROUGH ? 240_000 : 60_000,
  projects: [
    { displayName: 'library', rootDir: 'packages/upper-gate', testMatch: ['<rootDir>/__tests__/{,environments/}*.test.ts'], ...library },
    { displayName: 'browser', rootDir: 'packages/upper-gate', testMatch: ['<rootDir>/__tests__/browser/*.test.ts'], ...library },
    { displayName: 'cli', rootDir: 'packages/cli', testMatch: ['<rootDir>/test/*.test.ts'], ...built },
    { displayName: 'docs', rootDir: 'docs/test', testMatch: ['<rootDir>/*.test.ts'], ...withDemo },
    { displayName: 'examples', rootDir: 'examples/lock-passage', testMatch: ['<rootDir>/test/*.test.ts'], ...withDemo },
  ],
};
