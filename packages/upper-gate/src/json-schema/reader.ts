// What the parts of reading a document need of the reader; see ./read.ts.

import type { KindDefinition } from '../schema/definition.ts';
import type { Part } from '../schema/part.ts';
import type { AnyRule } from '../schema/rule.ts';
import type { JsonObject, Keywords, Place } from './document.ts';
import type { Choices } from './keywords/resources.ts';
import type { Functions } from './readRules.ts';

/** What is known of a value beside its own keywords. */
export interface Where {
  /** Its name, if it has no title. */
  readonly name: string;
  /** Whether it has to be there; `'item'`: it is a row of a list. Default: as its rules say. */
  readonly needed?: boolean | 'item' | undefined;
  /** Its kind, if other keywords have said it. */
  readonly kind?: string | undefined;
  /** Whether in JSON it may be of another type as well. */
  readonly isLoose?: boolean;
  /** The conditions that objects around it put on what is in it, by name. */
  readonly outer?: JsonObject | undefined;
}

/** What is known of the value that rules are on. */
export interface RulesOn {
  /** Its kind, if it is one of the author. */
  readonly defined?: KindDefinition | undefined;
  /** Whether the rules may read other fields; default false. */
  readonly canReadOthers?: boolean;
}

export interface DocumentReader {
  readonly functions: Functions;
  /** The keywords at places, and at those that they refer to or combine. */
  gather(places: readonly Place[]): Keywords[];
  /** The part of a schema that the schemas at several places describe together. */
  build(places: readonly Place[], where: Where): Part;
  /** Which of several schemas a telling property chooses (`discriminator`); nothing where there is none. */
  choicesOf(bag: Keywords, branches: readonly Place[]): Choices | undefined;
  /** The rules of a value: those that the annotation lists, in its order, then those of the keywords that are left. */
  rules(kind: string, bags: readonly Keywords[], needed: Where['needed'], on?: RulesOn): AnyRule[];
}
