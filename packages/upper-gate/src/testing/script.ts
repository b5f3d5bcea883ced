// A rehearsal as data: what a `*.rehearsal.yaml` holds. schemas/rehearsal.schema.json says the same to editors and programs.

import type { FieldState } from '../gate/fieldState.ts';
import type { GivenFinding, ProblemDetails } from '../gate/serverAnswer.ts';
import type { Status } from '../gate/submission.ts';
import type { CheckResult } from '../rules/crossField/check.ts';
import type { Options, OptionValue } from '../schema/option.ts';
import type { Stage } from '../schema/verdict.ts';

/** The answer to an async rule: what `check` returns, or the options; after so many milliseconds. */
export interface Answer {
  /** Milliseconds until it comes. Default 0. */
  readonly after?: number;
  /** What `check` returns: `true`, a message, a finding. Default `true`. */
  readonly answer?: CheckResult;
  /** Of a rule that fetches options: these. */
  readonly options?: Options<OptionValue>;
  /** No answer: the function throws an error with this text. */
  readonly fails?: string;
  /** The function has a mistake: it throws a `TypeError` with this text. */
  readonly crashes?: string;
  /** What the function reads beside its value, by paths, or `context tides`: a change of these has it run again. */
  readonly reads?: readonly string[];
  /** No answer at all: the time of the rule runs out. */
  readonly never?: boolean;
}

/** The answer to a submission. */
export interface SubmissionAnswer {
  /** Milliseconds until it comes. Default 0. */
  readonly after?: number;
  /** What the handler returns. */
  readonly accept?: unknown;
  /** It is refused: findings, or problem details. */
  readonly refuse?: readonly GivenFinding[] | ProblemDetails;
  /** It breaks down: the handler throws an error with this text. */
  readonly fails?: string;
  /** No answer at all. */
  readonly never?: boolean;
}

/** What is expected of a field or, under `''`, of the form. */
export type Expected = Partial<
  Pick<
    FieldState,
    | 'raw'
    | 'data'
    | 'touched'
    | 'dirty'
    | 'pending'
    | 'valid'
    | 'validated'
    | 'revealed'
    | 'applies'
    | 'required'
    | 'counter'
    | 'hint'
    | 'label'
  >
> & {
  /** The state of the form's submission. */
  readonly status?: Status;
  /** The codes of all findings there, shown or not. */
  readonly codes?: readonly string[];
  /** The values to choose from. */
  readonly options?: readonly string[];
};

/** One step. What the user does is named by a verb, with the path of the field; the others are what the program does, and what is expected. */
export type Step =
  /** One change for each character, so many milliseconds apart. */
  | { readonly types: string; readonly text: string; readonly pace?: number }
  /** One change: the control holds this now. */
  | { readonly enters: string; readonly value: unknown }
  | { readonly leaves: string }
  | { readonly adds: string; readonly value?: unknown; readonly at?: number }
  | { readonly removes: string; readonly row: number }
  | { readonly moves: string; readonly from: number; readonly to: number }
  | { readonly submits: true }
  /** Milliseconds, or until nothing is under way. */
  | { readonly waits: number | 'quiet' }
  /** The program sets a value. */
  | { readonly sets: string; readonly value: unknown }
  /** The program resets a field, or the form (`''`), to the initial values or to these. */
  | { readonly resets: string; readonly value?: unknown }
  /** Values come from outside. */
  | { readonly rebases: unknown }
  /** The program validates fields, or the form (`''`). */
  | { readonly validates: string | readonly string[]; readonly reveal?: boolean }
  /** A fact from outside is another. */
  | { readonly learns: string; readonly value: unknown }
  /** The program adds findings, as of a server. */
  | { readonly finds: readonly GivenFinding[] }
  /** A message, or that it is being checked, is on the page: the text, or a part of it. */
  | { readonly sees: string; readonly text: string }
  | { readonly seesNothing: string }
  | ({ readonly expects: string } & Expected);

/** A rehearsal as data. */
export interface Script {
  readonly $schema?: string;
  readonly name?: string;
  /** The moment at which it begins (RFC 3339). Default `2027-05-01T08:00:00Z`. */
  readonly start?: string;
  readonly on?: Stage;
  readonly reveal?: Stage;
  readonly show?: 'all' | 'first';
  readonly initial?: unknown;
  /** Facts from outside, by the names of their contexts. */
  readonly context?: Readonly<Record<string, unknown>>;
  /** The answers of each async rule in order, by its name, or by the path of its field. */
  readonly answers?: Readonly<Record<string, readonly Answer[]>>;
  readonly submissions?: readonly SubmissionAnswer[];
  readonly steps: readonly Step[];
}
