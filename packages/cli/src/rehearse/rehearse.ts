// The subcommand `rehearse`: plays rehearsals, and writes their timelines.

import { readFile, writeFile } from 'node:fs/promises';
import { basename } from 'node:path';
import pc from 'picocolors';
import { rehearse, RehearsalError, timelineText, type Timeline, type TimelineStyle } from 'upper-gate/testing';
import { Failure, firstLine } from '../failure.ts';
import { factsOf, parseJson } from '../files.ts';
import { print, printable, printableDocument } from '../report/output.ts';
import type { Loaded } from '../schema.ts';
import { differences } from './compare.ts';
import type { RehearseOptions } from './formats.ts';
import { readScript } from './read.ts';

/** Timelines, by the names of their files. */
type Timelines = Readonly<Record<string, Timeline>>;

/**
 * Plays rehearsals.
 *
 * @param coloured whether the text is for a terminal with colours
 * @returns whether all was as expected
 * @throws Failure for a file that cannot be read, or is no rehearsal
 */
export async function rehearseFiles(
  schema: Loaded,
  files: readonly string[],
  options: RehearseOptions,
  coloured: boolean,
): Promise<boolean> {
  const { format, expect, update, quiet } = options;
  if (update && expect === undefined) throw new Failure('--update writes the file of --expect: name one.');
  if (format === 'svg' && files.length > 1) throw new Failure('--format svg writes one picture: name one rehearsal.');
  const colours = pc.createColors(coloured);
  const style: TimelineStyle = { name: colours.bold, error: colours.red, faint: colours.dim };
  const expected = expect === undefined || update ? undefined : await readTimelines(expect);
  const { context, contexts } = schema;
  const played: Record<string, Timeline> = {};
  const wrong: string[] = [];
  for (const file of files) {
    const name = basename(file);
    const script = await readScript(file);
    let timeline: Timeline;
    try {
      ({ timeline } = await rehearse(
        schema.schema as never,
        { name: name.replace(/\.rehearsal\.\w+$/, ''), ...script },
        { context, contexts },
      ));
    } catch (error) {
      if (error instanceof RehearsalError) {
        ({ timeline } = error);
        wrong.push(`${file}: ${error.message.split('\n')[0]!}`);
      } else if (error instanceof TypeError || error instanceof RangeError) throw new Failure(`${file}: ${firstLine(error)}`);
      else throw error;
    }
    played[name] = timeline;
    if (expected) wrong.push(...differences(file, expected[name], timeline));
    if (!quiet && format === 'text')
      await print(`${timelineText(written(timeline), { style })}

`);
  }
  if (update) await save(expect!, played);
  if (format === 'json' && !quiet)
    await print(`${printableDocument(JSON.stringify(files.length === 1 ? Object.values(played)[0] : played, null, 2))}\n`);
  if (format === 'svg' && !quiet) await print((await import('./svg.ts')).timelineSvg(written(Object.values(played)[0]!)));
  for (const text of wrong) console.error(`upper-gate: ${text}`);
  return wrong.length === 0;
}

/** A timeline whose texts do nothing to a terminal. */
const written = ({ name, lanes, moments, ...rest }: Timeline): Timeline => ({
  ...rest,
  name: printable(name),
  lanes: lanes.map(({ path, tracks }) => ({
    path: printable(path),
    tracks: tracks.map((track) => ({ ...track, name: printable(track.name) })),
  })),
  moments: moments.map(({ at, path, text }) => ({ at, path: printable(path), text: printable(text) })),
});

async function readTimelines(path: string): Promise<Timelines> {
  await factsOf(path, 'file of expected timelines');
  const all = parseJson(await readFile(path, 'utf8'), path);
  const isRight =
    typeof all === 'object' && all !== null && Object.values(all).every((each) => Array.isArray((each as Timeline | null)?.moments));
  if (!isRight) throw new Failure(`${path} should hold timelines by the names of rehearsals. Write it with --update.`);
  return all as Timelines;
}

async function save(path: string, timelines: Timelines): Promise<void> {
  try {
    await writeFile(path, `${JSON.stringify(timelines, null, 2)}\n`);
  } catch (error) {
    throw new Failure(`Cannot write ${path}: ${firstLine(error)}.`);
  }
}
