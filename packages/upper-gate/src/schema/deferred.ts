// A part of a schema that contains itself: a lock has side locks, which have side locks. What stands for it is made
// when it is first needed, as deep as the data is.

import { FieldPart, Unreadable, UNREADABLE } from './field.ts';
import type { Finding } from './finding.ts';
import type { LiveNode } from './kit.ts';
import type { Location, Part } from './part.ts';
import type { Walker } from './walker.ts';
import type { Settings } from './node.ts';
import { blocks } from './severity.ts';

/** How deep such parts are walked; deeper data is taken for an attack on the stack. */
const DEEPEST = 100;

/** Walks the part that another stands for. */
export function walkTarget(part: Part, target: Part, raw: unknown, walker: Walker): unknown {
  walker.depth += 1;
  const data = walker.depth > DEEPEST ? walker.reject(part) : walker.instead(target, raw);
  walker.depth -= 1;
  return data;
}

const ANY = { holds: 'value', json: 'any' } as const;

/** In place of a row that lies too deep: it is kept as it is, and cannot be read. */
const TOO_DEEP = /* @__PURE__ */ new FieldPart({ name: 'deferred', traits: ANY, read: () => UNREADABLE }, { label: 'Entry' }, []);

/** What a row of a form is made of that stands for another part: as deep as a whole value is walked. @param around its list, or dictionary */
export function targetIn(around: LiveNode<Part>, { target }: { readonly target: Part }): Part {
  let depth = 0;
  for (let at: LiveNode<Part> | undefined = around; at !== undefined; at = at.parent)
    if (at.part.isOpen && at.part.inner!().some(isDeferred)) depth += 1;
  return depth > DEEPEST ? TOO_DEEP : target;
}

const isNone = (raw: unknown): boolean => raw === undefined || raw === null || raw === '';

/** Validates a whole value, for a live form: `validate` without async rules. */
type ValidateWhole = (part: Part, raw: unknown) => { readonly data?: unknown; readonly findings: readonly Finding[] };

/**
 * Stands for a part that it is within. Nothing is there where nothing was given: else it would never end. A live form
 * holds it as one field, whose value is the whole of what lies below; as a row of a list, it is what it stands for.
 */
export class DeferredPart extends FieldPart {
  readonly #make: () => Part;
  #target: Part | undefined;

  /**
   * @param make makes what it stands for
   * @param validateWhole reads its value in a live form
   */
  constructor(settings: Settings, make: () => Part, validateWhole: ValidateWhole) {
    const read = (raw: unknown): unknown => {
      if (isNone(raw)) return undefined;
      const { data, findings } = validateWhole(this.target, raw);
      const error = findings.find(blocks);
      return error ? new Unreadable({ code: error.code, message: () => error.message }) : data;
    };
    const walk = (raw: unknown, walker: Walker): unknown => {
      // (In JSON, only nothing is nothing.)
      return raw === undefined || (isNone(raw) && !walker.isJson) ? undefined : walkTarget(this, this.target, raw, walker);
    };
    super({ name: 'deferred', traits: ANY, read }, settings, [], walk);
    this.#make = make;
  }

  /** Whether valid data has a value here. */
  get always(): boolean {
    return this.settings.inJson?.absent === 'refused';
  }

  /** What it stands for. */
  get target(): Part {
    return (this.#target ??= this.#make());
  }

  override inner(): readonly Part[] {
    return [this.target];
  }

  override row(): Part {
    return this.target;
  }

  override rowIn(around: LiveNode<Part>): Part {
    return targetIn(around, this);
  }

  override locate(key: string): Location | undefined {
    return this.target.locate?.(key);
  }
}

/** Whether a part stands for one that it is within. */
export const isDeferred = (part: Part): part is Part & { readonly target: Part; readonly always: boolean } => 'target' in part;
