import type { ReactNode } from 'react';
import type { GateField } from 'upper-gate/react';

/** A field: what the kit draws, its hint, its messages. */
export function Field({
  of: { state, hint, messages },
  children,
}: {
  readonly of: Pick<GateField, 'state' | 'hint' | 'messages'>;
  readonly children: ReactNode;
}) {
  return (
    <div>
      {children}
      {state.hint && <span className="hint" {...hint} />}
      <span {...messages} />
    </div>
  );
}
