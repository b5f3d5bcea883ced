// Tests the package as it is published: the forms of packages/upper-gate/test/environments under Jest with jsdom and
// happy-dom, in a project of ES modules and in one of CommonJS, each with the settings that docs/testing.md shows.
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { transformSync } from 'esbuild';

const root = join(import.meta.dirname, '..');
const folder = mkdtempSync(join(tmpdir(), 'upper-gate-packaged-'));
const ENVIRONMENTS = ['jsdom', '@happy-dom/jest-environment'];
const SETTINGS = {
  module: { file: 'jest.config.js', text: 'export default { transform: {} };' },
  commonjs: {
    file: 'jest.config.cjs',
    text: /^\/\/ jest\.config\.cjs\n([\s\S]*?)^```/m.exec(readFileSync(join(root, 'docs/testing.md'), 'utf8'))[1],
  },
};

/** Links what is installed here into another folder, but for the package itself. */
function linkInstalled(into) {
  const link = (from, to) => symlinkSync(from, to, 'junction');
  mkdirSync(into, { recursive: true });
  for (const name of readdirSync(join(root, 'node_modules'))) {
    if (name.startsWith('.') || name === 'upper-gate') continue;
    if (!name.startsWith('@')) link(join(root, 'node_modules', name), join(into, name));
    else {
      mkdirSync(join(into, name));
      for (const inner of readdirSync(join(root, 'node_modules', name)))
        link(join(root, 'node_modules', name, inner), join(into, name, inner));
    }
  }
}

let status = 0;
try {
  const packed = execFileSync('npm', ['pack', '--json', '--pack-destination', folder], {
    cwd: join(root, 'packages/upper-gate'),
    encoding: 'utf8',
  });
  const [{ filename }] = Object.values(JSON.parse(packed));
  const forms = readFileSync(join(root, 'packages/upper-gate/test/environments/forms.ts'), 'utf8');
  for (const [type, settings] of Object.entries(SETTINGS)) {
    const project = join(folder, type);
    linkInstalled(join(project, 'node_modules'));
    const library = join(project, 'node_modules/upper-gate');
    mkdirSync(library);
    execFileSync('tar', ['-xzf', join(folder, filename), '-C', library, '--strip-components=1']);
    const write = (file, text) => {
      mkdirSync(dirname(join(project, file)), { recursive: true });
      writeFileSync(join(project, file), text);
    };
    write('package.json', JSON.stringify({ type }));
    write(settings.file, settings.text);
    write('forms.js', transformSync(forms, { loader: 'ts', format: 'esm' }).code.replace("'./forms.ts'", "'./forms.js'"));
    for (const environment of ENVIRONMENTS)
      write(
        `${environment.replace(/\W/g, '')}.test.js`,
        `/** @jest-environment ${environment} */\nimport { testForms } from './forms.js';\n\ntestForms();\n`,
      );
    console.log(`\nThe packed library in a project of type ${type}:`);
    const jest = [join(root, 'node_modules/jest/bin/jest.js'), '--rootDir', project, '--silent', '--config', join(project, settings.file)];
    const options = type === 'module' ? ['--experimental-vm-modules', '--no-warnings'] : [];
    status ||= spawnSync(process.execPath, [...options, ...jest], { cwd: project, stdio: 'inherit' }).status ?? 1;
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
process.exitCode = status;
