// A schema as a table in Markdown: fields, kinds and rules, for a team's own documentation.

import type { PhrasingContent, Root, TableRow } from 'mdast';
import { gfmTableToMarkdown } from 'mdast-util-gfm-table';
import { toMarkdown as write } from 'mdast-util-to-markdown';
import { targetOf, type RuleDescription, type SchemaDescription } from 'upper-gate/interop';

type Cell = readonly PhrasingContent[];

const text = (value: string): Cell => (value === '' ? [] : [{ type: 'text', value }]);
const code = (value: string): Cell => [{ type: 'inlineCode', value }];
const separated = (cells: readonly Cell[], by: string): Cell => cells.flatMap((cell, i) => (i > 0 ? [...text(by), ...cell] : cell));
const row = (cells: readonly Cell[]): TableRow => ({
  type: 'tableRow',
  children: cells.map((cell) => ({ type: 'tableCell', children: [...cell] })),
});

/** A param as data; nothing for one that is off, or a text in several languages. */
function param([name, value]: [string, unknown]): Cell | undefined {
  const isData = Array.isArray(value) || value === true || typeof value === 'number' || (typeof value === 'string' && value !== '');
  return isData ? [...text(`${name} `), ...code(Array.isArray(value) ? value.join(', ') : String(value))] : undefined;
}

/** `length (min 2, max 40)`; the author's own function by its name. */
function ruleOf({ name, params, severity, function: own }: RuleDescription): Cell {
  const facts = [
    own === undefined ? undefined : code(own),
    ...Object.entries(params).map(param),
    severity === 'error' ? undefined : text(severity),
  ];
  const known = facts.filter((fact) => fact !== undefined);
  return [...text(name), ...(known.length > 0 ? [...text(' ('), ...separated(known, ', '), ...text(')')] : [])];
}

const nameOf = (path: string): Cell => (path === '' ? text('(whole form)') : code(path));

/** What stands around a part. */
interface Around {
  readonly path: string;
  readonly whole: SchemaDescription;
  /** Where parts stand that lie within themselves. */
  readonly known: Map<SchemaDescription, string>;
  /** The rules that the groups around declare for it. */
  readonly rules: readonly RuleDescription[];
  /** When it applies. */
  readonly when: readonly Cell[];
  /** What the groups around declare for what is in it, by path. */
  readonly further: Further;
}

type Further = Pick<SchemaDescription, 'fieldRules' | 'appliesWhen'>;

/** What is declared for a part, and for what is in it. */
function declaredFor(name: string, all: readonly Further[]): Pick<Around, 'rules' | 'when' | 'further'> {
  const below = <T>(of: Readonly<Record<string, T>> = {}): [string, T][] =>
    Object.entries(of).flatMap(([path, each]) => (path.startsWith(`${name}.`) ? [[path.slice(name.length + 1), each] as [string, T]] : []));
  return {
    rules: all.flatMap(({ fieldRules }) => fieldRules?.[name] ?? []),
    when: all.flatMap(({ appliesWhen }) =>
      (appliesWhen?.[name] ?? []).map((predicate) => [
        ...text('applies if '),
        ...(predicate ? code(predicate) : text('a condition holds')),
      ]),
    ),
    further: {
      fieldRules: Object.fromEntries(all.flatMap(({ fieldRules }) => below(fieldRules))),
      appliesWhen: Object.fromEntries(all.flatMap(({ appliesWhen }) => below(appliesWhen))),
    },
  };
}

function* rowsOf(of: SchemaDescription, around: Around): Generator<TableRow, void> {
  const { path, whole, known, rules, when, further } = around;
  const { kind, label, hint = '', options, fields, item, cases, chooser, key } = of;
  const target = targetOf(whole, of);
  const before = target && known.get(target);
  if (target && before === undefined) return yield* rowsOf(target, around);
  known.set(of, path);
  const all = [...when, ...[...of.rules, ...rules].map(ruleOf)];
  const values = (options ?? []).map(({ value }) => code(String(value)));
  const sort =
    before === undefined
      ? [...text(kind), ...(options ? [...text(': '), ...separated(values, ', ')] : [])]
      : [...text('as '), ...nameOf(before)];
  // A group without rules is seen from the paths of its fields.
  if ((!fields && !cases) || all.length > 0)
    yield row([nameOf(path), text(path === '' ? '' : label), sort, separated(all, '; '), text(hint)]);
  const inner = (name: string): string => (path === '' ? name : `${path}.${name}`);
  for (const [name, field] of Object.entries(fields ?? {}))
    yield* rowsOf(field, { path: inner(name), whole, known, ...declaredFor(name, [of, further]) });
  if (item) yield* rowsOf(item, { path: inner('*'), whole, known, rules: [], when: [], further });
  if (!cases) return;
  yield* rowsOf(chooser!, { path: inner(key!), whole, known, rules: [], when: [], further: {} });
  for (const [value, group] of Object.entries(cases)) {
    const chosen = [...text('if '), ...code(key!), ...text(' is '), ...code(value)];
    for (const [name, field] of Object.entries(group.fields ?? {})) {
      const declared = declaredFor(name, [group, declaredFor(value, [further]).further]);
      yield* rowsOf(field, { path: inner(name), whole, known, ...declared, when: [chosen, ...declared.when] });
    }
  }
}

/**
 * A table of the fields of a schema.
 *
 * @param name of the schema, for the heading
 */
export function toMarkdown(description: SchemaDescription, name: string): string {
  const tree: Root = {
    type: 'root',
    children: [
      { type: 'heading', depth: 2, children: [{ type: 'text', value: name }] },
      {
        type: 'table',
        children: [
          row(['Field', 'Label', 'Kind', 'Rules', 'Hint'].map(text)),
          ...rowsOf(description, { path: '', whole: description, known: new Map(), rules: [], when: [], further: {} }),
        ],
      },
    ],
  };
  return write(tree, { extensions: [gfmTableToMarkdown()] });
}
