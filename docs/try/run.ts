// The page that runs what was written in the playground: it has no origin, and a policy of its own. It draws the form as the command does.

import * as library from 'upper-gate';
import * as dom from 'upper-gate/dom';
import * as html from 'upper-gate/html';
import { inspect } from 'upper-gate/inspector';
import * as interop from 'upper-gate/interop';
import * as jsonSchema from 'upper-gate/json-schema';
import * as saving from 'upper-gate/saving';
import * as wizard from 'upper-gate/wizard';
import { toMarkdown } from '../../packages/cli/src/convert/markdown.ts';
import { toMarkup } from '../../packages/cli/src/convert/markup.ts';
import { toTypes } from '../../packages/cli/src/convert/types.ts';
import type { Run, Told } from './messages.ts';

const MODULES: Readonly<Record<string, unknown>> = {
  'upper-gate': library,
  'upper-gate/dom': dom,
  'upper-gate/html': html,
  'upper-gate/interop': interop,
  'upper-gate/json-schema': jsonSchema,
  'upper-gate/saving': saving,
  'upper-gate/wizard': wizard,
};
function moduleOf(name: string): unknown {
  if (!Object.hasOwn(MODULES, name)) throw new TypeError(`There is no "${name}" here. There is ${Object.keys(MODULES).join(', ')}.`);
  return MODULES[name];
}

const tell = (told: Told): void => parent.postMessage(told, '*');
const place = document.querySelector('main')!;
const written = (value: unknown): string => JSON.stringify(value, (_, each: unknown) => (each === undefined ? null : each), 2);
/** What a view says, or why it says nothing. */
function said(view: () => string): string {
  try {
    return view();
  } catch (error) {
    return String(error);
  }
}

/** The schema that a module exports: its default, or the first. @throws TypeError if it exports none */
function schemaIn(code: string): library.Node {
  const exported: Record<string, unknown> = {};
  // What is written is run; that is what this page is for, and why it has no origin.
  // eslint-disable-next-line @typescript-eslint/no-implied-eval, @typescript-eslint/no-unsafe-call
  new Function('exports', 'require', code)(exported, moduleOf);
  const found = [exported['default'], ...Object.values(exported)].find(library.isSchema);
  if (!found) throw new TypeError('Export a schema: export default group({ ... }).');
  return found;
}

let undo: () => void = () => undefined;
function run(code: string): void {
  undo();
  place.replaceChildren();
  const schema = schemaIn(code);
  const description = interop.describeSchema(schema);
  const markup = said(() => toMarkup(description));
  tell({
    views: {
      jsonSchema: said(() => written(jsonSchema.toJsonSchema(schema))),
      types: said(() => toTypes(description, 'schema')),
      markdown: said(() => toMarkdown(description, 'Schema')),
      html: markup,
    },
  });
  if (!description.fields) throw new TypeError('A form is drawn of a group. Put the field into one: group({ field: ... }).');
  place.innerHTML = markup;
  const gate = library.createGate(schema, {
    submit: () => undefined,
    onFault: ({ error, path, rule }) => tell({ error: `${path || 'the form'} (${rule}): ${String(error)}` }),
  });
  const unbind = dom.bindForm(place.querySelector('form')!, gate, {
    rows: dom.templateRows,
    summary: dom.errorSummary,
    options: dom.movingOptions,
  });
  const show = (): void => {
    const { state, findings, root } = gate;
    const lines = findings.map(({ path, severity, code: name, message }) => `${severity} ${path || '(form)'} [${name}] ${message}`);
    tell({
      views: {
        findings: lines.join('\n') || 'None',
        state: written(state),
        data: `${state.status === 'accepted' ? 'Accepted' : 'So far'}:\n${said(() => written(root.data))}`,
      },
    });
  };
  const stop = gate.subscribe(show);
  show();
  undo = () => {
    stop();
    unbind();
    gate.dispose();
  };
}

let stopInspecting: (() => void) | undefined;
/** Shows the inspector, or takes it away. */
function show(isInspected: boolean): void {
  stopInspecting?.();
  stopInspecting = isInspected ? inspect(undefined, { open: true }) : undefined;
}

addEventListener('message', ({ source, data }: MessageEvent<Run>) => {
  if (source !== parent) return;
  try {
    if ('inspects' in data) return show(data.inspects);
    run(data.code);
  } catch (error) {
    tell({ error: String(error) });
  }
});
tell({ ready: true });
