// The examples in the doc comments of the library, as modules that can be compiled.

import { readdirSync, readFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { root } from './examples.ts';

const library = join(root, 'packages/upper-gate');

/** What the examples take for granted: a form, and what an application has around it. */
const AROUND = `
import { createServer } from 'node:http';
import { fastify, type FastifyInstance, type FastifyReply, type FastifyRequest } from 'fastify';
import * as fc from 'fast-check';
import { useId, type ReactNode } from 'react';
const member = u.group({ name: u.text('Name', u.required()), role: u.text('Role'), permit: u.text('Permit') });
const crewMember = member;
const boat = u.group({
  vessel: u.text('Vessel name', u.required()), beam: u.number('Beam (m)', u.required()), lengthM: u.number('Length (m)', u.required()),
  kind: u.choice('Kind', ['barge', 'canoe'], u.required()), tug: u.text('Tug'), weight: u.number('Weight'), dangerous: u.boolean('Dangerous'),
  arrival: u.date('Arrival', u.required()), departure: u.date('Departure'), email: u.text('E-mail'), emailAgain: u.text('Again'),
  phone: u.text('Phone'), secondPhone: u.text('Second phone'), callBack: u.boolean('Call me back'), crew: u.list('Crew', member),
  harbour: u.choice('Harbour', ['Oster', 'Wester'], u.required()), berth: u.text('Berth'), canal: u.text('Canal', u.required()), lock: u.text('Lock'),
});
const passage = boat;
type Passage = u.DataOf<typeof passage>;
declare const gate: u.Gate<typeof passage>;
declare const anyGate: u.AnyGate, trace: import('upper-gate/trace').Trace, rehearsed: import('upper-gate/testing').Rehearsal;
declare const form: HTMLFormElement, place: HTMLElement, document: Document & Record<string, unknown>;
declare const api: { book(data: unknown): Promise<Response> }, db: { book(data: unknown): Promise<object>; isRegistered(number: string): Promise<boolean> };
declare const BERTHS: Record<string, string[]>, LOCKS: Record<string, string[]>, HEAVIEST: Record<string, number>, WIDEST: Record<string, number>;
declare const name: string, body: string, page: string, stored: object, posted: { raw: unknown; findings: readonly u.Finding[] }, loaded: Response;
declare const limits: { keys: number; depth: number; listLength: number };
declare const tides: u.Context<number>, stay: any, registered: any, vesselName: any, bookingSchema: import('upper-gate/interop').StandardSchema<{ vessel: string; berths?: number }>;
declare const app: ReturnType<typeof fastify>, incoming: FastifyRequest, reply: FastifyReply, request: Request & Pick<FastifyRequest, 'raw'>;
declare function fetchTides(): Promise<number>; declare function drawBoat(beam: number | undefined): void; declare function drawMyList(...list: unknown[]): void;
declare function show(what: unknown): void; declare function send(data: Passage): Promise<Response>; declare function save(data: unknown): Promise<void>;
declare function isOnRegister(number: string): Promise<boolean>; declare function book(...given: unknown[]): Promise<unknown>;
declare function CrewMember(props: { row: unknown; onRemove(): void }): ReactNode;
`;

/** The names that an entry exports, by the report of its API. */
const exportsOf = (report: string): string[] => [
  ...new Set(
    [...readFileSync(join(library, 'api', report), 'utf8').matchAll(/^export (?:abstract )?(?:(?:function|const|class|interface|type) |\{ \w+ as )(\w+)/gm)].map(
      ([, name]) => name!,
    ),
  ),
];

interface Example {
  readonly where: string;
  readonly code: string;
  /** The name that is declared below it; undefined within an interface or class. */
  readonly of: string | undefined;
}

/** The examples of the doc comments, by the folder that they are in. */
function examplesIn(folder: string): Example[] {
  return readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.ts'))
    .flatMap((file) =>
      [...readFileSync(join(folder, file), 'utf8').matchAll(/^ *\* @example\n((?: *\*(?!\/| @).*\n)+)(?:.*\n)*?(?= *\*\/\n(.*))/gm)].map(([, block, declared]) => ({
        where: file,
        code: block!.replace(/^ *\* ?/gm, ''),
        of: /^export (?:function|const|interface|type|class) (\w+)/.exec(declared!)?.[1],
      })),
    );
}

/** A fragment that begins with a clause of a group is one of the form. */
const whole = (code: string): string =>
  code
    .replace(/^export /gm, '')
    .replace(/^\.(?=\w+\()/gm, ';passage.')
    .replaceAll(', ... }', ' }');

/** Their functions have the same names. */
const FRAMEWORKS = ['react', 'vue', 'svelte', 'solid', 'angular'];

/**
 * Makes the modules.
 *
 * @returns their code by name
 */
export function referenceModules(): Readonly<Record<string, string>> {
  const entries = readdirSync(join(library, 'api')).map((report) => [basename(report, '.api.md'), exportsOf(report)] as const);
  const specifier = (entry: string): string => (entry === 'upper-gate' ? entry : entry === 'messages' ? 'upper-gate/messages/en' : `upper-gate/${entry}`);
  const moduleOf = (examples: readonly Example[], skipped: readonly string[]): string => {
    const body = examples.map(({ where, code }, i) => `// ${where}\nasync function example${i}(): Promise<any> {\n${whole(code)}\n}\n`).join('');
    // (Some names are exported by several entries.)
    const imported = new Set<string>();
    const isFirst = (name: string): boolean => imported.size < imported.add(name).size;
    const imports = entries
      .filter(([entry]) => !skipped.includes(entry))
      .map(([entry, names]) => `import { ${names.filter((each) => new RegExp(`\\b${each}\\b`).test(body) && isFirst(each)).join(', ')} } from '${specifier(entry)}';`);
    return `import * as u from 'upper-gate';\n${imports.join('\n')}${AROUND}${body}export {};\n`;
  };
  const known = new Set(entries.flatMap(([, names]) => names));
  const all = examplesIn(join(library, 'src')).filter(({ of }) => of === undefined || known.has(of));
  const within = (folder: string) => all.filter(({ where }) => where.startsWith(`${folder}/`));
  return {
    core: moduleOf(
      all.filter(({ where }) => !FRAMEWORKS.some((name) => where.startsWith(`${name}/`))),
      FRAMEWORKS,
    ),
    ...Object.fromEntries(
      FRAMEWORKS.filter((name) => name !== 'angular').map((name) => [
        name,
        moduleOf(
          within(name),
          FRAMEWORKS.filter((other) => other !== name),
        ),
      ]),
    ),
  };
}
