// The API report: packages/upper-gate/api has what each entry exports, as text. A change of it that nobody has recorded
// (`npm run api -- --record`) fails.
import { mkdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { basename, join } from 'node:path';
import { CompilerState, Extractor, ExtractorConfig } from '@microsoft/api-extractor';

const root = join(import.meta.dirname, '..');
const library = join(root, 'packages/upper-gate');
const { exports } = createRequire(import.meta.url)(join(library, 'package.json'));
const records = process.argv.includes('--record');
const reportFolder = join(library, 'api');
mkdirSync(reportFolder, { recursive: true });

const silent = { default: { logLevel: 'none' } };
// (What Angular's compiler adds to a directive, API Extractor cannot read.)
const entries = Object.entries(exports).filter(([entry, { types }]) => types !== undefined && entry !== './angular');
const configs = entries.map(([entry, { types }]) =>
  ExtractorConfig.prepare({
    configObjectFullPath: join(library, 'api-extractor.json'),
    packageJsonFullPath: join(library, 'package.json'),
    configObject: {
      projectFolder: library,
      newlineKind: 'lf',
      // One catalogue stands for all: they have the same type.
      mainEntryPointFilePath: join(library, types.replace('*', 'en')),
      compiler: { tsconfigFilePath: join(root, 'docs/site/tsconfig.json') },
      apiReport: {
        enabled: true,
        reportFileName: `${entry === '.' ? 'upper-gate' : entry.slice(2).replace('/*', '')}.api.md`,
        reportFolder,
        reportTempFolder: join(root, 'node_modules/.cache/api'),
      },
      docModel: { enabled: false },
      dtsRollup: { enabled: false },
      tsdocMetadata: { enabled: false },
      messages: { extractorMessageReporting: silent, tsdocMessageReporting: silent, compilerMessageReporting: silent },
    },
  }),
);
const additionalEntryPoints = configs.map(({ mainEntryPointFilePath }) => mainEntryPointFilePath);
const compilerState = CompilerState.create(configs[0], { additionalEntryPoints });

const changed = configs.filter((config) => {
  const messageCallback = (message) => (message.handled = true);
  return Extractor.invoke(config, { localBuild: records, compilerState, messageCallback }).apiReportChanged;
});
if (changed.length > 0 && !records) {
  const names = changed.map(({ reportFilePath }) => basename(reportFilePath, '.api.md')).join(', ');
  console.error(`The API of ${names} has changed. If that is meant, run npm run api -- --record, and say so in the changelog.`);
  process.exitCode = 1;
}
