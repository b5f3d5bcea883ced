// What a rule reports, and when: the vocabulary that rules, schemas and live forms share.

import type { Catalogue, MessageParams, Text } from '../messages/text.ts';
import type { Params } from './finding.ts';
import type { Severity } from './severity.ts';

/** The events at which rules run. Each also runs the rules of the events before it. */
export type Stage = 'change' | 'blur' | 'submit';

/** What a built-in rule reports: a code and its English text. */
export interface Verdict {
  readonly code: string;
  readonly text?: Text | undefined;
  /** A message of the author; it takes precedence over every catalogue. */
  readonly message?: Text | undefined;
  readonly severity?: Severity | undefined;
  readonly params?: Params | undefined;
  /** The code of the author under which a catalogue may have another text for it; its own text comes before that of its code. */
  readonly wordedAs?: string;
  /** About running the rule, not about the value: what the rule's author gave (message, code, severity) does not fit it. */
  readonly ignoresOptions?: true;
  /** Not kept where another rule has an error: it may only follow from that. */
  readonly givesWay?: true;
  /** The field it belongs to, relative to the value that was validated; `''` or absent: that value itself. */
  readonly path?: string | undefined;
}

/** What a rule reports on a value: nothing if it is right. */
export type RuleResult = Verdict | readonly Verdict[] | undefined;

/** Returns the present moment, for rules that depend on today's date. */
export type Clock = () => Date;

/** The options of every rule. A string stands for the message. */
export interface RuleOptions {
  /** Replaces the text of the catalogue. `{min}` and the like are slots for params. */
  readonly message?: Text;
  /** Replaces the code of the rule. */
  readonly code?: string;
  /** Default `'error'`, the only one that blocks. */
  readonly severity?: Severity;
  /** The event at which the rule first runs. Default: that of the form. */
  readonly on?: Stage;
  /** The event from which its findings are visible, earlier or later than those of the field. Default: as the field's. */
  readonly reveal?: Stage;
}

/** What a finding takes from the rule that reported it. */
export interface Reporter extends RuleOptions {
  readonly name: string;
  readonly params: Params;
  /** The params that are limits of the value, which messages write as its kind does. */
  readonly limits?: readonly string[];
  /** Writes them in a language, for texts with slots. @param words the kind of the field and the language, among others */
  readonly writes?: (params: Params, words: MessageParams, catalogue: Catalogue | undefined) => Params;
  /** The params that messages quote, of a rule of the author. */
  readonly quoted?: readonly string[];
}

/** A verdict, and the rule that reached it: undefined if reading did. */
export interface Found {
  readonly rule: Reporter | undefined;
  readonly verdict: Verdict;
}

/** Where a rule stands among all that report on one part. */
export interface Order {
  /** How deep in the form the part lies that declares the rule: the deepest reports first. */
  readonly depth: number;
  /** Where the rule stands among those of that part. */
  readonly index: number;
}
