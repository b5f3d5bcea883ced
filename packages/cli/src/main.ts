// The command `upper-gate`.

import { Command, CommanderError, Option } from 'commander';
import { checkFiles } from './check.ts';
import { Failure } from './failure.ts';
import { asJson, asText } from './report.ts';
import { loadSchema } from './schema.ts';

const EXIT = { clean: 0, findings: 1, wrong: 2 } as const;

/**
 * Runs the command.
 *
 * @param args what follows `upper-gate` on the command line
 * @returns the exit code: 0 no errors found, 1 errors found, 2 the call or a file was wrong
 */
export async function run(args: readonly string[]): Promise<number> {
  let code: number = EXIT.clean;
  const program = new Command('upper-gate')
    .description('Judges records by a schema of Upper Gate.')
    .exitOverride()
    .configureOutput({ outputError: (text, write) => write(text.replace(/^error: /, 'upper-gate: ')) })
    .showHelpAfterError('See: upper-gate --help');

  program
    .command('check')
    .description('check JSON files: each holds one record, or a list of records')
    .argument('<schema>', 'a TypeScript or JavaScript module that exports a schema')
    .argument('<data...>', 'the JSON files')
    .option('--export <name>', 'which export of the module (where it has several schemas)')
    .addOption(new Option('--format <format>', 'how to report').choices(['text', 'json']).default('text'))
    .addHelpText(
      'after',
      '\nExit code: 0 no errors found, 1 errors found, 2 the call or a file was wrong.\n\nExample:\n  upper-gate check passage.ts bookings.json',
    )
    .action(async (path: string, files: string[], options: { export?: string; format: string }) => {
      const report = await checkFiles(await loadSchema(path, options.export), files);
      console.log(options.format === 'json' ? asJson(report) : asText(report));
      if (report.findings.some(({ severity }) => severity === 'error')) code = EXIT.findings;
    });

  try {
    await program.parseAsync(args, { from: 'user' });
    return code;
  } catch (error) {
    // Commander has said what was wrong; help and the like are no error.
    if (error instanceof CommanderError) return error.exitCode === 0 ? EXIT.clean : EXIT.wrong;
    if (!(error instanceof Failure)) throw error;
    console.error(`upper-gate: ${error.message}`);
    return EXIT.wrong;
  }
}
