// Copies of the library in one program, as an application has them that bundles one and uses a package with another.

import { buildSync } from 'esbuild';
import type * as Library from 'upper-gate';
import type * as Html from 'upper-gate/html';
import type * as Interop from 'upper-gate/interop';
import { SOURCE } from './browser/launch.ts';

type Copy = typeof Library & typeof Html & typeof Interop;

/**
 * Loads a separate copy.
 *
 * @param edit changes its code: another version of the library
 */
export function loadCopy({ production = false, edit = (code: string) => code } = {}): Copy {
  const contents = "export * from 'upper-gate'; export * from 'upper-gate/html'; export * from 'upper-gate/interop';";
  const { outputFiles } = buildSync({
    stdin: { contents, resolveDir: __dirname },
    bundle: true,
    write: false,
    platform: 'node',
    format: 'cjs',
    conditions: production ? [SOURCE, 'production'] : [SOURCE],
  });
  const module = { exports: {} as Copy };
  // eslint-disable-next-line @typescript-eslint/no-implied-eval, @typescript-eslint/no-unsafe-call -- a bundle of our own
  new Function('module', edit(outputFiles[0]!.text))(module);
  return module.exports;
}
