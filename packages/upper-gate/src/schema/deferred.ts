// A part of a schema that lies within itself: a lock has side locks, which have side locks. What stands for it is made
// when it is first wanted, as deep as the data is.

import { FieldPart, Unreadable, UNREADABLE } from './field.ts';
import type { Finding } from './finding.ts';
import { judgePart } from './judgePart.ts';
import { HOLE, type Part, type Settings } from './node.ts';
import { newRun, refuse, type Run } from './run.ts';

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
      const run = newRun({});
      const data = this.judge(raw, run);
      const error = run.entries.find((entry): entry is Finding => 'severity' in entry && entry.severity === 'error');
      return error ? new Unreadable({ code: error.code, message: () => error.message }) : data;
    };
    super({ name: 'deferred', json: 'any', read }, settings, []);
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

  override takesJson(value: unknown): boolean {
    return value !== null && this.target.takesJson(value);
  }

  override get asks(): boolean {
    return this.#asks;
  }

  override child(key: string): Part | undefined {
    return this.target.child(key);
  }

  override placeOf(key: string): number | undefined {
    return this.target.placeOf(key);
  }

  override look(data: unknown, run: Run): unknown {
    return data === undefined || data === HOLE ? data : this.target.look(data, run);
  }

  override judge(raw: unknown, run: Run): unknown {
    if (isNone(raw)) return undefined;
    run.depth += 1;
    const data = run.depth > DEEPEST ? refuse(run, this, undefined, UNREADABLE.verdict) : judgePart(this.target, raw, run);
    run.depth -= 1;
    return data;
  }
}
