// Tests run on the TypeScript sources; those of the command and of the examples run what was built.
// While watching, fewer runs of the model say enough.
if (process.argv.some((argument) => argument.startsWith('--watch'))) process.env.MODEL_RUNS ??= '100';

const transform = { '^.+\\.ts$': ['@swc/jest', { jsc: { target: 'es2022', parser: { syntax: 'typescript' } } }] };

export default {
  testTimeout: 30_000,
  projects: [
    {
      displayName: 'library',
      rootDir: 'packages/upper-gate',
      testMatch: ['<rootDir>/test/**/*.test.ts'],
      // Some packages are ES modules alone.
      transform: { ...transform, '/node_modules/.+\\.js$': ['@swc/jest', { jsc: { target: 'es2022' } }] },
      transformIgnorePatterns: ['/node_modules/(?!intl-messageformat/|@formatjs/)'],
      moduleNameMapper: {
        '^#development$': '<rootDir>/src/development/on.ts',
        '^#devWarnings$': '<rootDir>/src/dom/devWarnings.ts',
        '^upper-gate$': '<rootDir>/src/index.ts',
        '^upper-gate/messages/(.*)$': '<rootDir>/src/messages/$1.ts',
        '^upper-gate/(.*)$': '<rootDir>/src/$1/index.ts',
      },
    },
    { displayName: 'cli', rootDir: 'packages/cli', testMatch: ['<rootDir>/test/**/*.test.ts'], transform },
    { displayName: 'lock-passage', rootDir: 'examples/lock-passage', testMatch: ['<rootDir>/test/**/*.test.ts'], transform },
  ],
};
