// TypeScript, in a worker of the playground: what is wrong with a text, what may be written at a place in it, and the script that it
// becomes. The types are those that the library is published with.

import { expose } from 'comlink';
import ts from 'typescript';

/** Files by their names, as text. */
type Files = Readonly<Record<string, string>>;
const published = import.meta.glob<string>(['../../packages/upper-gate/dist/**/*.d.ts', '../../packages/upper-gate/package.json'], {
  query: '?raw',
  import: 'default',
  eager: true,
});
const platform = import.meta.glob<string>(
  ['../../node_modules/typescript/lib/lib.{es,dom,decorators}*.d.ts', '!../../node_modules/typescript/lib/lib.*.full.d.ts'],
  { query: '?raw', import: 'default', eager: true },
);
const named = (files: Files, from: RegExp, to: string): [string, string][] =>
  Object.entries(files).map(([name, text]) => [name.replace(from, to), text]);
const FILES = new Map([
  ...named(published, /^.*packages\/upper-gate\//, '/node_modules/upper-gate/'),
  ...named(platform, /^.*\/lib\//, '/lib/'),
]);

const MODULE = '/schema.ts';
const OPTIONS: ts.CompilerOptions = {
  strict: true,
  target: ts.ScriptTarget.ES2022,
  module: ts.ModuleKind.ESNext,
  moduleResolution: ts.ModuleResolutionKind.Bundler,
  lib: ['lib.es2023.d.ts', 'lib.dom.d.ts', 'lib.dom.iterable.d.ts'],
  types: [],
};

let text = '';
let version = 0;
const read = (name: string): string | undefined => (name === MODULE ? text : FILES.get(name));
const folders = new Set([...FILES.keys()].flatMap((name) => [...name.matchAll(/\//g)].map(({ index }) => name.slice(0, index))));
const service = ts.createLanguageService({
  getCompilationSettings: () => OPTIONS,
  getScriptFileNames: () => [MODULE],
  getScriptVersion: (name) => (name === MODULE ? String(version) : '0'),
  getScriptSnapshot(name) {
    const content = read(name);
    return content === undefined ? undefined : ts.ScriptSnapshot.fromString(content);
  },
  getCurrentDirectory: () => '/',
  getDefaultLibFileName: (options) => `/lib/${ts.getDefaultLibFileName(options)}`,
  fileExists: (name) => read(name) !== undefined,
  directoryExists: (name) => folders.has(name.replace(/\/$/, '')),
  readFile: read,
});

function take(now: string): void {
  if (now === text) return;
  text = now;
  version += 1;
}

/** Something that is wrong with a text. */
export interface Problem {
  readonly from: number;
  readonly to: number;
  readonly message: string;
}

const api = {
  /** @returns what is wrong */
  problemsIn(now: string): readonly Problem[] {
    take(now);
    return [...service.getSyntacticDiagnostics(MODULE), ...service.getSemanticDiagnostics(MODULE)].map(
      ({ start = 0, length = 0, messageText }) => ({
        from: start,
        to: start + length,
        message: ts.flattenDiagnosticMessageText(messageText, '\n'),
      }),
    );
  },
  /** @returns what may be written at a place */
  completionsAt(now: string, at: number): readonly { readonly label: string; readonly type: string }[] {
    take(now);
    const { entries = [] } = service.getCompletionsAtPosition(MODULE, at, undefined) ?? {};
    return entries.map(({ name, kind }) => ({ label: name, type: kind }));
  },
  /** @returns what stands at a place: its type, and what the library says of it */
  infoAt(now: string, at: number): string | undefined {
    take(now);
    const info = service.getQuickInfoAtPosition(MODULE, at);
    return info && [ts.displayPartsToString(info.displayParts), ts.displayPartsToString(info.documentation)].filter(Boolean).join('\n\n');
  },
  /** @returns the script, as a module of CommonJS */
  compile: (now: string): string =>
    ts.transpileModule(now, { compilerOptions: { module: ts.ModuleKind.CommonJS, target: ts.ScriptTarget.ES2022 } }).outputText,
};
export type TypeScript = typeof api;
expose(api);
