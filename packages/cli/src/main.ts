// The command `upper-gate`.

import { writeSync } from 'node:fs';
import { createRequire } from 'node:module';
import { Command, CommanderError, Option } from 'commander';
import { delimiter, slice, wholeNumber, workers } from './arguments.ts';
import type { CheckOptions } from './check/check.ts';
import { TARGETS, type Target } from './convert/targets.ts';
import { LINT_FORMATS, NOTATIONS, type LintCommandOptions } from './lint/formats.ts';
import { TIMELINES, type RehearseOptions } from './rehearse/formats.ts';
import { ended, Failure, firstLine } from './failure.ts';
import { FORMATS } from './read/names.ts';
import { REPORTS } from './report/collect.ts';
import { newTally, type Tally } from './report/outcome.ts';
import { print, printable, takeOutput } from './report/output.ts';
import { Progress } from './report/progress.ts';
import { Report, type ReportOptions } from './report/report.ts';
import type { SchemaOptions } from './schema.ts';

const EXIT = { clean: 0, findings: 1, wrong: 2, interrupted: 130 } as const;

const { version: VERSION } = createRequire(import.meta.url)('../package.json') as { readonly version: string };

const SCHEMA =
  'a TypeScript or JavaScript module that exports a schema, or a document (.json, .yaml): JSON Schema, OpenAPI; file#name chooses one in it';
const EXPORT =
  'which export of the module; or where in the document, as a JSON Pointer, or an operation of it (default: the only one there is)';
const TRUST = 'take patterns of a document that can take very long on a short text';
const CONTEXT = 'a JSON file with what the schema reads from outside, by the names of its contexts';
const CHECKS = 'a module that exports the functions that a document names, or those of async rules, by their names';

/** What the command is doing, for what ends it from outside. */
interface State {
  /** An end of the process meanwhile is no result. */
  doing: string | undefined;
  readonly tally: Tally;
  readonly progress: Progress;
}

/**
 * Runs the command, and ends the process with its exit code: 0 no errors found, 1 errors found, 2 a wrong argument or file, 130
 * interrupted. Always one of these, whatever a schema module does.
 *
 * @param args what follows `upper-gate` on the command line
 */
export async function main(args: readonly string[]): Promise<void> {
  const tally = newTally();
  // Nobody looks on where a program runs it.
  const progress = new Progress(tally, process.stderr.isTTY && !process.env['CI'] && !args.includes('--quiet'));
  const state: State = { doing: 'reading its arguments', tally, progress };
  const end = (code: number, message?: string): never => {
    progress.stop();
    state.doing = undefined;
    if (message !== undefined) console.error(`upper-gate: ${printable(message)}`);
    process.exit(code);
  };
  takeOutput((error) => {
    // Whoever reads has had enough: no fault of anybody's, but what was found by then was found.
    if (error.code === 'EPIPE') end(tally.error > 0 ? EXIT.findings : EXIT.clean);
    end(EXIT.wrong, `Cannot write the report: ${firstLine(error)}.`);
  });
  process.once('SIGINT', () => end(EXIT.interrupted));
  process.on('uncaughtException', (error) => end(EXIT.wrong, `A module threw while ${state.doing}: ${firstLine(error)}.`));
  process.on('exit', () => {
    if (state.doing === undefined) return;
    writeSync(2, `upper-gate: ${ended(state.doing)}\n`);
    process.exitCode = EXIT.wrong;
  });
  try {
    process.exitCode = await run(args, state);
    state.doing = undefined;
  } catch (error) {
    if (error instanceof Failure) end(EXIT.wrong, error.message);
    // A fault of the command itself: all that is known of it.
    progress.stop();
    console.error(error);
    state.doing = undefined;
    process.exitCode = EXIT.wrong;
  }
}

/**
 * Reads the arguments, and does what they say. What a subcommand alone needs is loaded by it: help and mistakes come at once.
 *
 * @returns the exit code
 */
async function run(args: readonly string[], state: State): Promise<number> {
  const { tally, progress } = state;
  let code: number = EXIT.clean;
  const program = new Command('upper-gate')
    .description('Validates records with a schema of Upper Gate, converts schemas, finds faults in them, and rehearses forms.')
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
    .option('--context <file>', CONTEXT)
    .option('--trust-patterns', TRUST)
    .addOption(new Option('--async <how>', 'skip: leave out async rules').choices(['skip']))
    .addOption(
      new Option(
        '--unknown <how>',
        'refuse: keys and columns that the schema does not know are errors (default: keys are left out, columns told)',
      ).choices(['refuse']),
    )
    .addOption(new Option('--input <format>', 'the format of the data (default: from the extension, NDJSON for -)').choices(FORMATS))
    .addOption(
      new Option(
        '--source <types>',
        'what JSON holds: json, data by their own types; form, what controls hold, mostly text (default: json)',
      ).choices(['form', 'json']),
    )
    .option('--stdin-name <path>', 'what to call standard input; its extension gives the format')
    .addOption(
      new Option('--delimiter <character>', 'what separates the values of CSV; tab for a tab (default: a comma)').argParser(delimiter),
    )
    .option('--columns <file>', 'a JSON file that maps headers of CSV to paths: {"Boat": "vessel", "Remarks": null}')
    .addOption(new Option('--slice <part/of>', 'check only a part of a file of NDJSON, such as 3/8: the third eighth').argParser(slice))
    .addOption(
      new Option(
        '--workers <count>',
        'how many threads validate NDJSON; each loads the schema (default: 2, or 1 for async rules)',
      ).argParser(workers),
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
  upper-gate check openapi.yaml#bookPassage bodies.ndjson
  upper-gate check openapi.json#/components/schemas/Passage bookings.ndjson
  upper-gate check passage.ts bookings.ndjson.gz --format summary
  upper-gate check passage.ts bookings.csv --delimiter ';' --columns columns.json
  upper-gate check passage.ts bookings.ndjson --slice 3/8 --format ndjson > findings.3.ndjson`,
    )
    .action(async (path: string, files: string[], options: Omit<ReportOptions, 'coloured'> & SchemaOptions & CheckOptions) => {
      const [{ loadSchema }, { checkFiles }] = await Promise.all([import('./schema.ts'), import('./check/check.ts')]);
      state.doing = `loading ${path}`;
      const schema = await loadSchema(path, options);
      state.doing = 'validating';
      // Commander knows NO_COLOR, FORCE_COLOR and terminals.
      const style = { format: options.format, coloured: program.configureOutput().getOutHasColors?.() ?? false };
      const report = new Report({ ...options, ...style }, tally, progress);
      for (const note of schema.notes) report.note(note);
      await checkFiles(schema, files, options, { schema: path, options, style }, report, progress);
      progress.stop();
      await report.end();
      if (tally.error > 0) code = EXIT.findings;
    });

  program
    .command('convert')
    .description('convert a schema to JSON Schema (2020-12), TypeScript types of its data, the HTML of a form, or a table in Markdown')
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
  upper-gate convert passage.ts --to html > form.html
  upper-gate convert passage.ts --to markdown > passage.md`,
    )
    .action(async (path: string, { to, ...options }: SchemaOptions & { to: Target }) => {
      const [{ loadSchema }, { convert }] = await Promise.all([import('./schema.ts'), import('./convert/convert.ts')]);
      state.doing = `loading ${path}`;
      await print(await convert(await loadSchema(path, options), to));
    });

  program
    .command('lint')
    .description('find faults in schemas: rules that contradict each other or never fail, wrong messages, patterns that can hang, and more')
    .argument('<schema...>', `${SCHEMA}; of a module, all that it exports`)
    .option('--checks <module>', CHECKS)
    .option('--context <file>', CONTEXT)
    .option('--trust-patterns', TRUST)
    .option('--catalogues <module>', 'a module that exports the catalogues in use: texts and languages that are missing are found')
    .option('--values <file>', 'a JSON file with an array of values of the schema, as forms hold them, to try the rules with')
    .addOption(new Option('--exported-to <notation...>', 'find what cannot be written there').choices(NOTATIONS))
    .option('--accept <file>', 'a JSON file that accepts findings, with reasons (default: passage.lint.json beside passage.ts)')
    .addOption(new Option('--format <format>', 'how to report').choices(LINT_FORMATS).default('text'))
    .addOption(new Option('--fail-on <severity>', 'what is a failure').choices(['warning', 'error']).default('error'))
    .addHelpText(
      'after',
      `
Exit code: 0 nothing found of that severity, 1 something was, 2 a wrong argument or file, 130 interrupted.

Examples:
  upper-gate lint passage.ts
  upper-gate lint passage.ts#passage openapi.yaml#bookPassage --fail-on warning
  upper-gate lint passage.ts --format sarif > passage.sarif`,
    )
    .action(async (paths: string[], options: SchemaOptions & LintCommandOptions) => {
      const { lintFiles } = await import('./lint/lint.ts');
      state.doing = 'looking for faults';
      const coloured = program.configureOutput().getOutHasColors?.() ?? false;
      if (await lintFiles(paths, options, { coloured, version: VERSION })) code = EXIT.findings;
    });

  program
    .command('rehearse')
    .description('play rehearsals of a form: what a user does, who answers and what is expected, in files of YAML or JSON')
    .argument('<schema>', SCHEMA)
    .argument('<file...>', 'the rehearsals: passage.rehearsal.yaml')
    .option('--export <name>', EXPORT)
    .option('--checks <module>', CHECKS)
    .option('--context <file>', CONTEXT)
    .option('--trust-patterns', TRUST)
    .addOption(new Option('--format <format>', 'how to write the timelines').choices(TIMELINES).default('text'))
    .option('--expect <file>', 'compare the timelines with those of a JSON file')
    .option('--update', 'write the timelines to the file of --expect', false)
    .option('--quiet', 'print only what is not as expected', false)
    .addHelpText(
      'after',
      `
Exit code: 0 all as expected, 1 something is not, 2 a wrong argument or file, 130 interrupted.

Examples:
  upper-gate rehearse passage.ts wrong-order.rehearsal.yaml
  upper-gate rehearse passage.ts wrong-order.rehearsal.yaml --format svg > wrong-order.svg
  upper-gate rehearse passage.ts *.rehearsal.yaml --expect timelines.json --quiet`,
    )
    .action(async (path: string, files: string[], options: SchemaOptions & RehearseOptions) => {
      const [{ loadSchema }, { rehearseFiles }] = await Promise.all([import('./schema.ts'), import('./rehearse/rehearse.ts')]);
      state.doing = `loading ${path}`;
      const schema = await loadSchema(path, options);
      state.doing = 'rehearsing';
      if (!(await rehearseFiles(schema, files, options, program.configureOutput().getOutHasColors?.() ?? false))) code = EXIT.findings;
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
