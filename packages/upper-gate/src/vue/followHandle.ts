// The field that a component follows.

import { shallowRef, toValue, watch, type MaybeRefOrGetter, type ShallowRef } from 'vue';
import { followPath } from '../binding/index.ts';
import type { AnyGate } from '../gate/gate.ts';
import type { Handle } from '../gate/handle.ts';

/** Follows a field: a ref or getter may give another one, and where a path leads may depend on what is chosen above it. */
export function followHandle(gate: AnyGate, field: MaybeRefOrGetter<string | Handle>): Readonly<ShallowRef<Handle>> {
  const find = (now: string | Handle): Handle => (typeof now === 'string' ? gate.field(now) : now);
  const handle = shallowRef(find(toValue(field)));
  // On the server nothing changes between setup and rendering.
  if (typeof document !== 'undefined')
    watch(
      () => toValue(field),
      (now, _, cleanUp) => {
        handle.value = find(now);
        if (typeof now === 'string') cleanUp(followPath(gate, now, () => (handle.value = gate.field(now))) ?? (() => undefined));
      },
      { immediate: true, flush: 'sync' },
    );
  return handle;
}
