import { readdirSync } from 'node:fs';
import { importX } from 'eslint-plugin-import-x';
import jsdoc from 'eslint-plugin-jsdoc';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

const library = 'packages/upper-gate/src';
/** Rules that need types look at what is published; in CI, also at tests, scripts and examples. */
const isThorough = process.env['THOROUGH'] !== undefined;
/** The layers of the library, lowest first: a layer imports those before it, never those after it. */
const layers = [
  'development',
  'messages',
  'icu',
  'schema',
  'evaluate',
  'clauses',
  'rules',
  'html',
  'validate',
  'interop',
  'json-schema',
  'gate',
  'saving',
  'wizard',
  'trace',
  'testing',
  'lint',
  'openapi',
  'showing',
  'binding',
  'dom',
  'elements',
  'react',
  'vue',
  'svelte',
  'solid',
  'inspector',
  'server',
];
const folders = readdirSync(library, { withFileTypes: true }).flatMap((entry) => (entry.isDirectory() ? [entry.name] : []));
for (const name of folders)
  if (!layers.includes(name))
    throw new Error(`${library}/${name} has no layer: add it to the layers in eslint.config.js, where it belongs.`);
for (const name of layers)
  if (!folders.includes(name)) throw new Error(`The layer ${name} in eslint.config.js has no folder in ${library}.`);

/** What every schema is made of. The kinds in folders of their own bring how they run, by the functions of `evaluate`. */
const schema = [`./${library}/schema/*.ts`, `./${library}/schema/{compose,context}`];

export default tseslint.config(
  {
    ignores: ['.dependency-cruiser.cjs', '**/dist/', '**/dist-server/', '**/compiled/', '**/node_modules/', 'coverage/', 'docs/reference/'],
  },
  ...tseslint.configs.strictTypeChecked,
  {
    languageOptions: {
      parserOptions: {
        // (One program: with the ones that build, everything would be checked several times over.)
        project: [isThorough ? 'tsconfig.lint-all.json' : 'tsconfig.lint.json'],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    // (Where rules are off, what turns them off for a line has no effect.)
    linterOptions: { reportUnusedDisableDirectives: isThorough ? 'error' : 'off' },
    rules: {
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-confusing-void-expression': 'off',
      '@typescript-eslint/no-unnecessary-type-parameters': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unsafe-class-instance-assignment': 'off',
      '@typescript-eslint/no-invalid-void-type': ['error', { allowAsThisParameter: true }],
      // There are no enums here.
      '@typescript-eslint/no-unsafe-enum-assignment': 'off',
      '@typescript-eslint/no-unsafe-enum-comparison': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      // What waits for a sibling is thrown as a mark of its own (schema/noValue.ts).
      '@typescript-eslint/only-throw-error': 'off',
      '@typescript-eslint/prefer-promise-reject-errors': 'off',
    },
  },
  {
    files: [`${library}/**/*.ts`],
    plugins: { 'import-x': importX, jsdoc },
    settings: {
      jsdoc: { mode: 'typescript' },
      'import-x/parsers': { '@typescript-eslint/parser': ['.ts'] },
    },
    rules: {
      // That public functions say everything is checked where the reference is built (docs/site/requireTags.js).
      'jsdoc/check-param-names': ['error', { checkDestructured: false, disableMissingParamChecks: true }],
      'jsdoc/check-tag-names': 'error',
      'jsdoc/no-types': 'error',
      'jsdoc/require-param-description': 'error',
      'jsdoc/require-returns-description': 'error',
      'import-x/no-restricted-paths': [
        'error',
        {
          zones: layers
            .map((layer, index) => ({
              target: layer === 'schema' ? schema : `./${library}/${layer}`,
              from: layers.slice(index + 1).map((later) => `./${library}/${later}`),
              message:
                'Imports point one way: bindings, server -> showing -> gate, validate -> rules -> clauses -> evaluate -> schema -> messages.',
            }))
            .filter(({ from }) => from.length > 0)
            .concat(
              ['react', 'vue', 'svelte', 'solid'].map((folder) => ({
                target: `./${library}/${folder}`,
                from: [`./${library}/showing`, `./${library}/gate/internals.ts`],
                message: 'A binding of a framework takes what it needs from upper-gate/binding, as anybody could.',
              })),
            )
            .concat({
              target: `./${library}/schema/{dictionary,list,variant}`,
              from: layers.slice(layers.indexOf('evaluate') + 1).map((later) => `./${library}/${later}`),
              message: 'A kind may use evaluate/ to run itself, and nothing above it.',
            })
            .concat({
              target: `./${library}/gate`,
              from: ['validate', 'interop', 'json-schema'].map((folder) => `./${library}/${folder}`),
              message: 'The live form and whole values share evaluate/, and do not import each other.',
            }),
        },
      ],
      'no-restricted-imports': ['error', { patterns: [{ regex: '^[^.#]', message: 'The library has no runtime dependency.' }] }],
    },
  },
  {
    files: [`${library}/react/**`, 'examples/*/src/**/*.tsx'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  // Optional peers, each in a folder of its own.
  { files: [`${library}/{icu,interop,react,vue,svelte,solid,server}/**`], rules: { 'no-restricted-imports': 'off' } },
  // (And what takes Angular's compiler, whose types need a TypeScript of its own.)
  { files: ['**/*.{js,mjs}', 'examples/passage-angular/vite.config.ts'], ...tseslint.configs.disableTypeChecked },
  ...(isThorough ? [] : [{ ignores: ['packages/*/src/**'], ...tseslint.configs.disableTypeChecked }]),
  {
    files: ['**/__tests__/types/**'],
    rules: {
      '@typescript-eslint/no-meaningless-void-operator': 'off',
      '@typescript-eslint/no-unsafe-return': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
      '@typescript-eslint/no-unnecessary-type-assertion': 'off',
      '@typescript-eslint/no-unused-vars': 'off',
    },
  },
  {
    files: ['**/{test,__tests__}/**'],
    rules: { '@typescript-eslint/require-await': 'off', '@typescript-eslint/unbound-method': 'off' },
  },
);
