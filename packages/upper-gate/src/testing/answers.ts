// Who answers while a form is rehearsed: the script, in place of the functions of async rules and of the submit handler.

import { keysOf, pathOf } from '../schema/finding.ts';
import { DEV } from '#development';
import type { GivenFinding } from '../gate/serverAnswer.ts';
import { toResult } from '../rules/crossField/check.ts';
import { wrongUse } from '../schema/assertUse.ts';
import type { Context, ContextToken } from '../schema/context/context.ts';
import type { AnswerAsync, FormClock, LiveNode, Recorder, TracedRule } from '../schema/kit.ts';
import { partOf, within, type Part } from '../schema/part.ts';
import type { Node } from '../schema/node.ts';
import { WAITING } from '../schema/noValue.ts';
import { ownName } from '../trace/entries.ts';
import type { Answer, SubmissionAnswer } from './script.ts';

/** The answers of one rule: in order, or by its value. */
export type Answers = readonly Answer[] | ((value: unknown, path: string) => Answer);

/** What a script says about answers. */
export interface AnswerDesk {
  /**
   * Answers an async rule.
   *
   * @param which its name (the option `name`, or the name of its function), or the path of its field (all rows: `crew.licence`, one:
   *   `crew.0.licence`), or both, as in `'registration isOnRegister'`
   * @param answers in the order of its runs; or a function of the value and the path
   * @throws TypeError for a name or path without an async rule, or a name that several have
   */
  rule(which: string, answers: Answers): void;
  /**
   * Answers submissions. Without, each is accepted at once.
   *
   * @param answers in order
   */
  submission(answers: readonly SubmissionAnswer[]): void;
}

/** The same, for what runs the form. */
export interface Answering extends AnswerDesk {
  readonly answerAsync: AnswerAsync;
  readonly submit: (data: unknown) => Promise<unknown>;
  /** What the script did not answer. */
  readonly problem: Error | undefined;
}

/** A path without the indices of rows. */
export const general = (path: string): string => pathOf(keysOf(path).filter((key) => !/^\d+$/.test(key)));

/** The names of the async rules of a schema; undefined for one without a name. */
function namesIn(schema: Node): readonly (string | undefined)[] {
  const found = new Set<TracedRule>();
  within(partOf(schema), ({ ruleList, clauses }: Part) => {
    for (const rule of [...ruleList, ...(clauses?.fieldRules?.list.map(({ what }) => what) ?? [])]) if (rule.async) found.add(rule);
    return false;
  });
  return [...found].map(ownName);
}

/** Whether a part has something at a path, with or without the indices of rows. */
function has(part: Part | undefined, [key, ...rest]: readonly string[]): boolean {
  if (!part || key === undefined) return part !== undefined;
  const isRow = part.traits.holds === 'rows' && !/^\d+$/.test(key);
  return isRow ? has(part.locate?.('0')?.part, [key, ...rest]) : has(part.locate?.(key)?.part, rest);
}

const isList = (refuse: NonNullable<SubmissionAnswer['refuse']>): refuse is readonly GivenFinding[] => Array.isArray(refuse);

/** Makes what answers for a form. @param clock of the form @param note counts what happens */
export function createAnswers(schema: Node, clock: FormClock, tokens: ReadonlyMap<string, Context>, note: () => void): Answering {
  const names = namesIn(schema);
  const byName = new Map<string, { readonly answers: Answers; taken: number }>();
  let submissions: readonly SubmissionAnswer[] | undefined;
  let submitted = 0;
  let problem: Error | undefined;

  const fail = (text: string): never => {
    problem ??= new TypeError(text);
    throw problem;
  };
  const sleep = (milliseconds = 0): Promise<void> =>
    milliseconds > 0
      ? new Promise((resolve) =>
          clock.setTimeout(() => {
            note();
            resolve();
          }, milliseconds),
        )
      : Promise.resolve();

  /** The answers to a rule on a node: by its path, by the path of all its rows, by its name. */
  const findFor = (rule: TracedRule, { path }: LiveNode) => {
    const name = ownName(rule);
    const keys = [path, general(path)].flatMap((at) => (name === undefined ? [at] : [`${at} ${name}`, at]));
    return [...keys, name ?? path].map((key) => byName.get(key)).find(Boolean);
  };

  const next = (rule: TracedRule, node: LiveNode, value: unknown): Answer => {
    const found = findFor(rule, node);
    const name = ownName(rule);
    const which = JSON.stringify(name ?? general(node.path));
    if (!found)
      return fail(
        `Nobody answers the async rule ${name ?? rule.name} of "${node.path}". Add answers.rule(${which}, [{ after: 200, answer: true }]).`,
      );
    const { answers } = found;
    if (typeof answers === 'function') return answers(value, node.path);
    const answer = answers[found.taken];
    found.taken += 1;
    return (
      answer ??
      fail(
        `The async rule ${name ?? rule.name} of "${node.path}" has run ${found.taken} times; answers.rule(${which}) has ${answers.length}. Add one.`,
      )
    );
  };

  /** Reads what the author's function would have read. */
  const read = (what: string, node: LiveNode, by: Recorder): void => {
    const token = what.startsWith('context ') ? tokens.get(what.slice('context '.length)) : undefined;
    if (token) {
      try {
        node.kit.readContext(token as unknown as ContextToken, by);
      } catch (error) {
        if (error !== WAITING) throw error;
      }
      return;
    }
    let root = node;
    while (root.parent) root = root.parent;
    const found = node.kit.find(what, root);
    if (found) node.kit.read(found, by);
  };

  return {
    get problem() {
      return problem;
    },
    rule(which, answers) {
      const many = names.filter((name) => name === which).length;
      const [path] = which.split(' ');
      const known = [...new Set(names)].filter(Boolean).join(', ');
      const wrong =
        many > 1
          ? `${many} async rules are called "${which}". Name the field in place of the rule: answers.rule('its.path', ...).`
          : many === 0 && !has(partOf(schema), keysOf(path!))
            ? `The schema has no async rule "${which}", and no field of that path. Its async rules: ${known || 'none has a name'}.`
            : undefined;
      if (wrong !== undefined) throw wrongUse(DEV && wrong);
      byName.set(which, { answers, taken: 0 });
    },
    submission(answers) {
      submissions = answers;
      submitted = 0;
    },
    answerAsync: (rule, node, recorder) => async (value) => {
      // The script begins once the form is there, and what loads at once is asked for then.
      await Promise.resolve();
      const { after, answer = true, options, fails, crashes, never, reads = [] } = next(rule, node, value);
      for (const path of reads) read(path, node, recorder);
      if (never) await new Promise(() => undefined);
      await sleep(after);
      if (fails !== undefined) throw new Error(fails);
      if (crashes !== undefined) throw new TypeError(crashes);
      return options ?? toResult(answer);
    },
    async submit() {
      if (!submissions) return undefined;
      const answer = submissions[submitted];
      submitted += 1;
      if (!answer) return fail(`This is submission ${submitted}; answers.submission() has ${submissions.length}. Add one.`);
      const { after, accept, refuse, fails, never } = answer;
      if (never) await new Promise(() => undefined);
      await sleep(after);
      if (fails !== undefined) throw new Error(fails);
      if (!refuse) return accept;
      return isList(refuse) ? { findings: refuse } : { status: 422, ...refuse };
    },
  };
}
