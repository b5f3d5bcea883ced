// A schema as plain data, for tools that write something of it: types, markup, a diagram.

import { toAttributes } from '../html/toAttributes.ts';
import type { Attributes } from '../html/fieldFromAttributes.ts';
import { inLanguage, type Catalogue, type Label } from '../messages/text.ts';
import { DeferredPart } from '../schema/deferred.ts';
import { FieldPart, type Option } from '../schema/field.ts';
import type { Params } from '../schema/finding.ts';
import { GroupPart } from '../schema/group.ts';
import { ListPart } from '../schema/list.ts';
import { partOf, type Node, type Part } from '../schema/node.ts';
import type { VariantPart } from '../schema/variant.ts';

/** What a part of a schema declares. */
export interface SchemaDescription {
  /** `'text'`, `'number'`, `'group'`, ...; `'deferred'`: what it is stands under `target`. */
  readonly kind: string;
  readonly label: string;
  readonly hint: string | undefined;
  /** Whether valid data always has a value here. */
  readonly always: boolean;
  /** Whether it applies only under a condition. */
  readonly conditional?: boolean;
  /** The rules on the value itself, in their order. */
  readonly rules: readonly { readonly name: string; readonly params: Params }[];
  /** The values of a choice. */
  readonly options?: readonly Option[];
  /** HTML's constraint attributes of a field. */
  readonly attributes?: Attributes;
  /** The fields of a group, by name. */
  readonly fields?: Readonly<Record<string, SchemaDescription>>;
  /** What the rows of a list are. */
  readonly item?: SchemaDescription;
  /** Of an either-or: the field that chooses, its name, and the groups that it chooses from. */
  readonly chooser?: SchemaDescription;
  readonly key?: string;
  readonly cases?: Readonly<Record<string, SchemaDescription>>;
  /** What lies within itself: the description, the same each time, of that which it is again. */
  readonly target?: SchemaDescription;
}

type MutableDescription = { -readonly [K in keyof SchemaDescription]: SchemaDescription[K] };

/**
 * Describes a schema as plain data.
 *
 * @param options `messages`: the language of labels and hints, by its catalogue; default English
 *
 * @example
 * describe(passage).fields?.['beam']?.attributes; // { type: 'number', required: true, max: '5.2', step: 'any' }
 */
export function describeSchema(schema: Node, { messages }: { readonly messages?: Catalogue } = {}): SchemaDescription {
  const inWords = (label: Label): string => inLanguage(label, messages);
  const known = new Map<Part, MutableDescription>();
  const all = (parts: Readonly<Record<string, Part>>, conditional?: ReadonlyMap<string, unknown>): Record<string, SchemaDescription> =>
    Object.fromEntries(
      Object.entries(parts).map(([key, part]) => {
        const described = read(part);
        return [key, conditional?.has(key) ? { ...described, always: false, conditional: true } : described];
      }),
    );
  const read = (part: Part): SchemaDescription => {
    const before = known.get(part);
    if (before) return before;
    const rules = part.ruleList.map(({ name, params }) => ({ name, params }));
    const hint = part.hint === undefined ? undefined : inWords(part.hint);
    const draft: MutableDescription = {
      kind: part.kind,
      label: inWords(part.label),
      hint,
      always: part.inJson?.absent !== 'accepted',
      rules,
    };
    known.set(part, draft);
    if (part instanceof DeferredPart) Object.assign(draft, { always: part.inJson?.absent === 'refused', target: read(part.target) });
    else if (part instanceof FieldPart) {
      draft.always = part.mandatory || part.spec.emptyData !== undefined;
      draft.attributes = toAttributes(part as never);
      if (part.spec.options) draft.options = part.spec.options;
    } else if (part instanceof GroupPart) {
      draft.fields = all(Object.fromEntries(part.keys.map((key, i) => [key, part.parts[i]!])), part.steps.conditions);
    } else if (part instanceof ListPart) draft.item = read(part.part);
    else {
      const { key, cases, chooser } = part as VariantPart;
      Object.assign(draft, { key, cases: all(cases), chooser: read(chooser), always: (chooser as FieldPart).mandatory });
    }
    return draft;
  };
  return read(partOf(schema));
}
