// The command `upper-gate`.

import { writeSync } from 'node:fs';
import { createRequire } from 'node:module';
import { Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import { checkFiles, type CheckOptions, type Tally } from './check.ts';
import { convert, TARGETS, type Target } from './convert.ts';
import { Failure, firstLine } from './failure.ts';
import { print, printable, takeOutput } from './output.ts';
import { FORMATS } from './records.ts';
import { Report, REPORTS, type ReportOptions } from './report.ts';
import { loadSchema, type SchemaOptions } from './schema.ts';

const EXIT = { clean: 0, findings: 1, wrong: 2, interrupted: 130 } as const;

const { version: VERSION } = createRequire(import.meta.url)('../package.json') as { readonly version: string };

const SCHEMA = 'a TypeScript or JavaScript module that exports a schema, or a JSON Schema document (.json)';
const EXPORT = 'which export of the module; or where in the document, as a JSON Pointer (default: the only one there is)';
const TRUST = 'take patterns of a document that can take very long on a short text';
const CHECKS = 'a module that exports the functions that the document names';

function wholeNumber(text: string): number {
  if (!/^\d+$/.test(text)) throw new InvalidArgumentError('It takes a whole number.');
  return Number(text);
}

/** How far the command is, for what ends it from outside. */
interface Progress {
  /** What it is doing: an end of the process meanwhile is no result. */
  doing: string | undefined;
  readonly tally: Tally;
  /** Clears the progress line of the terminal. */
  stop(): void;
}

/**
 * Runs the command, and ends the process with its exit code: 0 no errors found, 1 errors found, 2 a wrong argument or file, 130
 * interrupted. Always one of these, whatever a schema module does.
 *
 * @param args what follows `upper-gate` on the command line
 */
export async function main(args: readonly string[]): Promise<void> {
  const progress: Progress = { doing: 'reading its arguments', tally: newTally(), stop: () => undefined };
  const end = (code: number, message?: string): never => {
    progress.stop();
    progress.doing = undefined;
    if (message !== undefined) console.error(`upper-gate: ${printable(message)}`);
    process.exit(code);
  };
  takeOutput((error) => {
    // Whoever reads has had enough: no fault of anybody's, but what was found by then was found.
    if (error.code === 'EPIPE') end(progress.tally.error > 0 ? EXIT.findings : EXIT.clean);
    end(EXIT.wrong, `Cannot write the report: ${firstLine(error)}.`);
  });
  process.once('SIGINT', () => end(EXIT.interrupted));
  process.on('exit', () => {
    if (progress.doing === undefined) return;
    writeSync(2, `upper-gate: The process ended while ${progress.doing}: a module calls process.exit(), or never finishes.\n`);
    process.exitCode = EXIT.wrong;
  });
  try {
    process.exitCode = await run(args, progress);
    progress.doing = undefined;
  } catch (error) {
    if (!(error instanceof Failure)) {
      progress.doing = undefined;
      throw error;
    }
    end(EXIT.wrong, error.message);
  }
}

const newTally = (): Tally => ({ records: 0, passed: 0, error: 0, warning: 0, notice: 0 });

/** @returns the exit code */
async function run(args: readonly string[], progress: Progress): Promise<number> {
  const { tally } = progress;
  let code: number = EXIT.clean;
  const program = new Command('upper-gate')
    .description('Validates records with a schema of Upper Gate, and converts schemas.')
    .version(VERSION, '--version', 'print the version')
    .exitOverride()
    .configureOutput({
      writeOut: (text) => void print(text),
      outputError: (text, write) => write(text.replace(/^error: /, 'upper-gate: ')),
    })
    .showHelpAfterError('See: upper-gate --help');

  program
    .command('check')
    .description(
      'validate the records of files: JSON (one record or an array), NDJSON (one per line), CSV (headers are paths: crew.0.name)',
    )
    .argument('<schema>', SCHEMA)
    .argument('<data...>', 'the files, or - for standard input')
    .option('--export <name>', EXPORT)
    .option('--checks <module>', CHECKS)
    .option('--trust-patterns', TRUST)
    .addOption(new Option('--input <format>', 'the format of the data (default: from the extension, NDJSON for -)').choices(FORMATS))
    .addOption(
      new Option(
        '--source <types>',
        'how JSON holds values: json, by its own types; form, as controls do, mostly text (default: json for a JSON Schema document, else form)',
      ).choices(['form', 'json']),
    )
    .addOption(new Option('--format <format>', 'how to report').choices(REPORTS).default('text'))
    .addOption(
      new Option('--max <count>', 'print at most so many findings; all are counted').argParser(wholeNumber).default(Infinity, 'all'),
    )
    .option('--quiet', 'print nothing; use the exit code', false)
    .addHelpText(
      'after',
      `
Exit code: 0 no errors found, 1 errors found, 2 a wrong argument or file, 130 interrupted.

Examples:
  upper-gate check passage.ts bookings.json --source json
  upper-gate check passage.ts bookings.csv --max 20
  upper-gate check openapi.json bookings.ndjson --export /components/schemas/Passage
  zcat bookings.ndjson.gz | upper-gate check passage.ts - --format ndjson > findings.ndjson`,
    )
    .action(async (path: string, files: string[], options: Omit<ReportOptions, 'coloured'> & SchemaOptions & CheckOptions) => {
      progress.doing = `loading ${path}`;
      const schema = await loadSchema(path, options);
      progress.doing = 'validating';
      // Commander knows NO_COLOR, FORCE_COLOR and terminals.
      const coloured = program.configureOutput().getOutHasColors?.() ?? false;
      const report = new Report({ ...options, coloured }, tally);
      progress.stop = () => report.stop();
      try {
        await checkFiles(schema, files, options, (finding) => report.add(finding), tally);
      } finally {
        report.stop();
      }
      await report.end();
      if (tally.error > 0) code = EXIT.findings;
    });

  program
    .command('convert')
    .description('convert a schema to JSON Schema (2020-12), to TypeScript types of its data, or to the HTML of a form')
    .argument('<schema>', SCHEMA)
    .addOption(new Option('--to <what>', 'what to write').choices(TARGETS).makeOptionMandatory())
    .option('--export <name>', EXPORT)
    .option('--checks <module>', CHECKS)
    .option('--trust-patterns', TRUST)
    .addHelpText(
      'after',
      `
Examples:
  upper-gate convert passage.ts --to json-schema > passage.json
  upper-gate convert passage.json --to types > passage.d.ts
  upper-gate convert passage.ts --to html > form.html`,
    )
    .action(async (path: string, { to, ...options }: SchemaOptions & { to: Target }) => {
      progress.doing = `loading ${path}`;
      await print(convert(await loadSchema(path, options), to));
    });

  try {
    await program.parseAsync(args, { from: 'user' });
    return code;
  } catch (error) {
    // Commander has printed what was wrong. Help is not an error.
    if (error instanceof CommanderError) return error.exitCode === 0 ? EXIT.clean : EXIT.wrong;
    throw error;
  }
}
