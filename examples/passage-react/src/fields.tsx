// The parts that the booking is made of: each renders for its own field alone.

import type { Word } from 'lock-passage/words';
import { createContext, use, type ReactNode } from 'react';
import type { AnyGate, Handle } from 'upper-gate';
import { useGateField } from 'upper-gate/react';

/** The texts of the page around the form, in the current language. */
export const Say = createContext<(word: Word) => string>((word) => word);

interface FieldProps {
  readonly gate: AnyGate;
  /** The handle of the field. */
  readonly of: Handle;
}

/** A label, a control and messages. */
export function Field({
  gate,
  of,
  className = 'field',
  children,
  ...attributes
}: FieldProps & { readonly className?: string; readonly [attribute: string]: unknown; readonly children?: ReactNode }) {
  const { state, label, input, hint, counter, messages } = useGateField(gate, of);
  const Control = attributes['rows'] ? 'textarea' : children ? 'select' : 'input';
  return (
    <p className={className}>
      <label {...label} />
      {state.hint && <span className="hint" {...hint} />}
      <Control {...input} {...attributes}>
        {children}
      </Control>
      {attributes['rows'] !== undefined && <span className="hint count" {...counter} />}
      <span className="messages" {...messages} />
    </p>
  );
}

/** Radios or checkboxes of one field. */
export function Choices({ gate, of, draw }: FieldProps & { readonly draw: (value: string) => ReactNode }) {
  const { state, fieldset, label, option, hint, messages } = useGateField(gate, of);
  return (
    <fieldset className="field wide choices" {...fieldset}>
      <legend>{label.children}</legend>
      {state.hint && <span className="hint" {...hint} />}
      <span className="options">
        {of.options?.map(({ value }) => (
          <label key={value}>
            <input {...option(value)} /> {draw(value)}
          </label>
        ))}
      </span>
      <span className="messages" {...messages} />
    </fieldset>
  );
}

/** A box to tick, within its label. */
export function Tick({ gate, of, className, plain }: FieldProps & { readonly className: string; readonly plain?: boolean }) {
  const { label, input, messages } = useGateField(gate, of);
  return (
    <p className={className}>
      <label className={plain ? 'plain' : undefined}>
        <input {...input} /> {label.children}
      </label>
      <span className="messages" {...messages} />
    </p>
  );
}

/** A part of the form under a heading. */
export function Card({ title, children }: { readonly title: Word; readonly children: ReactNode }) {
  const say = use(Say);
  return (
    <fieldset className="card">
      <legend>{say(title)}</legend>
      <div className="grid">{children}</div>
    </fieldset>
  );
}
