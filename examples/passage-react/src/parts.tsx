// The parts of the booking: each draws some of its fields.

import { askRegister } from 'lock-passage/client';
import { KINDS, passageForm } from 'lock-passage/passage';
import type { Word } from 'lock-passage/words';
import { use, useEffect, useRef } from 'react';
import type { Gate } from 'upper-gate';
import { useGateList, useGateState, useGateSummary } from 'upper-gate/react';
import { Card, Choices, Field, Say, Tick } from './fields.tsx';

export const passage = passageForm(askRegister);
export type PassageGate = Gate<typeof passage>;

export function Summary({ gate }: { readonly gate: PassageGate }) {
  const { line, place, heading, errors, link } = useGateSummary(gate);
  return (
    <>
      <section className="summary" {...place}>
        <h2 {...heading} />
        <ul>
          {errors.map((error) => (
            <li key={`${error.path} ${error.text}`}>{error.element ? <a {...link(error)} /> : error.text}</li>
          ))}
        </ul>
      </section>
      <div className="whole" {...line} />
    </>
  );
}

export function Boat({ gate }: { readonly gate: PassageGate }) {
  const say = use(Say);
  return (
    <Card title="boat">
      <Field gate={gate} of={gate.field('vessel')} autoComplete="off" />
      <Field gate={gate} of={gate.field('registration')} autoComplete="off" spellCheck={false} />
      <Field gate={gate} of={gate.field('lengthM')} className="field third" type="number" step="any" inputMode="decimal" />
      <Field gate={gate} of={gate.field('beam')} className="field third" type="number" step="any" inputMode="decimal" />
      <Field gate={gate} of={gate.field('kind')} className="field third">
        <option value="">{say('choose')}</option>
        {KINDS.map((kind) => (
          <option key={kind} value={kind}>
            {say(kind)}
          </option>
        ))}
      </Field>
      <Field gate={gate} of={gate.field('insurance')} className="field wide" accept=".pdf,image/*" />
    </Card>
  );
}

export function Voyage({ gate }: { readonly gate: PassageGate }) {
  const say = use(Say);
  return (
    <Card title="passage">
      <Field gate={gate} of={gate.field('arrival')} className="field third" />
      <Field gate={gate} of={gate.field('window.from')} className="field third" />
      <Field gate={gate} of={gate.field('window.to')} className="field third" />
      <Choices
        gate={gate}
        of={gate.field('slot')}
        draw={(value) => (
          <>
            <b>{value}</b> {say(value as Word)}
          </>
        )}
      />
    </Card>
  );
}

/** Crew, cargo and safety kit. */
export function Aboard({ gate }: { readonly gate: PassageGate }) {
  const say = use(Say);
  return (
    <Card title="aboard">
      <Crew gate={gate} />
      <Cargo gate={gate} />
      <Choices gate={gate} of={gate.field('kit')} draw={(value) => say(value as Word)} />
    </Card>
  );
}

function Crew({ gate }: { readonly gate: PassageGate }) {
  const say = use(Say);
  const { rows, label, messages, button, add, remove, move } = useGateList(gate, 'crew');
  return (
    <fieldset className="wide crew">
      <legend>{label}</legend>
      {rows.map((row, index) => (
        <fieldset className="row wide" key={row.key}>
          <legend>
            {say('member')} {index + 1}
          </legend>
          <Field gate={gate} of={row.field('name')} autoComplete="off" />
          <Field gate={gate} of={row.field('age')} type="number" inputMode="numeric" />
          <span className="tools">
            <button type="button" className="quiet" data-gate-move="up" onClick={() => move(index, index - 1)}>
              {say('up')}
            </button>
            <button type="button" className="quiet" onClick={() => remove(index)}>
              {say('remove')}
            </button>
          </span>
        </fieldset>
      ))}
      <span className="messages" {...messages} />
      <button {...button} className="quiet" data-gate-add="crew" onClick={() => add()}>
        {say('addMember')}
      </button>
    </fieldset>
  );
}

function Cargo({ gate }: { readonly gate: PassageGate }) {
  const say = use(Say);
  const load = useGateState(gate, (gate) => gate.field('cargo.load').data);
  return (
    <>
      <Choices gate={gate} of={gate.field('cargo.load')} draw={(value) => say(value as Word)} />
      {load && load !== 'none' && (
        <>
          <Field gate={gate} of={gate.field('cargo.what')} className="field third" autoComplete="off" />
          <Field gate={gate} of={gate.field('cargo.tonnes')} className="field third" type="number" step="any" inputMode="decimal" />
        </>
      )}
      {load === 'dangerous' && <Field gate={gate} of={gate.field('cargo.permit')} className="field third" autoComplete="off" />}
    </>
  );
}

export function Reach({ gate }: { readonly gate: PassageGate }) {
  return (
    <Card title="reach">
      <Field gate={gate} of={gate.field('email')} type="email" autoComplete="email" />
      <Field gate={gate} of={gate.field('emailAgain')} type="email" autoComplete="email" />
      <Tick gate={gate} of={gate.field('callBack')} className="field tick" />
      <Field gate={gate} of={gate.field('phone')} type="tel" autoComplete="tel" />
      <Field gate={gate} of={gate.field('remarks')} className="field wide" rows={3} />
      <Tick gate={gate} of={gate.field('terms')} className="field wide" plain />
    </Card>
  );
}

export function SendButton({ gate }: { readonly gate: PassageGate }) {
  const say = use(Say);
  const status = useGateState(gate, ({ state }) => state.status);
  return (
    <button id="send" type="submit">
      {say(status === 'checking' || status === 'sending' ? status : 'send')}
    </button>
  );
}

/** Shows that the passage is booked, and moves the focus there. */
export function Outcome({ told }: { readonly told: readonly string[] | undefined }) {
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (told) place.current?.focus();
  }, [told]);
  return (
    <div id="outcome" tabIndex={-1} ref={place}>
      {told?.map((line) => (
        <p key={line}>{line}</p>
      ))}
    </div>
  );
}
