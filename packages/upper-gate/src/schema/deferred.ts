// A part of a schema that lies within itself: a lock has side locks, which have side locks. What stands for it is made
// when it is first wanted, as deep as the data is.

import { FieldPart, Unreadable, UNREADABLE } from './field.ts';
import type { Finding } from './finding.ts';
import { walkPart } from './walkPart.ts';
import { NO_VALUE, type Part, type Settings } from './node.ts';
import { newWalk, rejectValue, type Walk } from './walk.ts';

/** How deep such parts are judged; deeper data is taken for an attack on the stack. */
const DEEPEST = 100;

const isNone = (raw: unknown): boolean => raw === undefined || raw === null || raw === '';

/**
 * Stands for a part of which it is a part. Nothing is there where nothing was given: else it would never end. A live form
 * holds it as one field, whose value is the whole of what lies below; as a row of a list, it is what it stands for.
 */
export class DeferredPart extends FieldPart {
  readonly #make: () => Part;
  readonly #asks: boolean;
  #target: Part | undefined;

  /**
   * @param make gives what it stands for
   * @param asks whether that holds rules that ask over the network
   */
  constructor(settings: Settings, make: () => Part, asks: boolean) {
    const read = (raw: unknown): unknown => {
      if (isNone(raw)) return undefined;
      const run = newWalk({});
      const data = this.walk(raw, run);
      const error = run.entries.find((entry): entry is Finding => 'severity' in entry && entry.severity === 'error');
      return error ? new Unreadable({ code: error.code, message: () => error.message }) : data;
    };
    super({ name: 'deferred', jsonType: 'any', read }, settings, []);
    this.#make = make;
    this.#asks = asks;
  }

  /** What it stands for. */
  get target(): Part {
    return (this.#target ??= this.#make());
  }

  override get row(): Part {
    return this.target;
  }

  override acceptsJson(value: unknown): boolean {
    return value !== null && this.target.acceptsJson(value);
  }

  override get hasAsyncRules(): boolean {
    return this.#asks;
  }

  override child(key: string): Part | undefined {
    return this.target.child(key);
  }

  override positionOf(key: string): number | undefined {
    return this.target.positionOf(key);
  }

  override readForRule(data: unknown, run: Walk): unknown {
    return data === undefined || data === NO_VALUE ? data : this.target.readForRule(data, run);
  }

  override walk(raw: unknown, run: Walk): unknown {
    if (isNone(raw)) return undefined;
    run.depth += 1;
    const data = run.depth > DEEPEST ? rejectValue(run, this, undefined, UNREADABLE.verdict) : walkPart(this.target, raw, run);
    run.depth -= 1;
    return data;
  }
}
