// Changing a booking, drawn by React: /react/booked.html?reference=FF-10000

import { heardOf, openBooking, textOf, type Keeping } from 'lock-passage/keeping';
import type { KIT } from 'lock-passage/passage';
import { say as sayIn, type Word } from 'lock-passage/words';
import 'lock-passage/inspecting';
import 'lock-passage/style.css';
import { StrictMode, use, useSyncExternalStore } from 'react';
import { createRoot } from 'react-dom/client';
import { useGateList } from 'upper-gate/react';
import { Card, Choices, Field, Say, Tick } from './fields.tsx';

const say = (word: Word) => sayIn('en', word);

/** How the saving stands, and what somebody else has changed. */
function Standing({ keeping }: { readonly keeping: Keeping }) {
  const state = useSyncExternalStore(keeping.subscribe, () => keeping.state);
  const { taken = [], disputed = [] } = useSyncExternalStore(keeping.subscribe, () => keeping.news) ?? {};
  return (
    <>
      <p id="saving" className="card">
        {textOf(state)}
      </p>
      <p id="heard" className="unseen" role="status">
        {heardOf(state)}
      </p>
      <section id="news" className="card" role="alert" hidden={taken.length + disputed.length === 0}>
        {taken.length > 0 && <p>Somebody else has changed: {taken.join(', ')}. It is shown here.</p>}
        {disputed.length > 0 && (
          <>
            <p>You and somebody else have changed the same. Whose is right?</p>
            <ul>
              {disputed.map(({ label, theirs }) => (
                <li key={label}>
                  {label}, theirs: {theirs}
                </li>
              ))}
            </ul>
            <p className="actions">
              <button type="button" className="quiet" data-whose="mine" onClick={() => keeping.settle('mine')}>
                Keep mine
              </button>
              <button type="button" className="quiet" data-whose="theirs" onClick={() => keeping.settle('theirs')}>
                Take theirs
              </button>
            </p>
          </>
        )}
      </section>
    </>
  );
}

function Crew({ gate }: Pick<Keeping, 'gate'>) {
  const { rows, label, messages, button, add, remove } = useGateList(gate, 'crew');
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

function Booked({ opened }: { readonly opened: Promise<Keeping | Error> }) {
  const keeping = use(opened);
  if (keeping instanceof Error) return <p role="alert">{keeping.message}</p>;
  const { gate, booking } = keeping;
  return (
    <>
      <header className="top">
        <div className="inner">
          <p className="place">
            <a href="/">{say('place')}</a>
          </p>
          <h1>Change a booking</h1>
          <p>
            {booking.vessel}, {booking.arrival}, {booking.slot}. Reference {booking.reference}.
          </p>
        </div>
      </header>
      <main className="inner">
        <Standing keeping={keeping} />
        <Card title="boat">
          <Field gate={gate} of={gate.field('lengthM')} type="number" step="any" inputMode="decimal" />
          <Field gate={gate} of={gate.field('beam')} type="number" step="any" inputMode="decimal" />
          <Field gate={gate} of={gate.field('window.from')} />
          <Field gate={gate} of={gate.field('window.to')} />
        </Card>
        <Card title="aboard">
          <Crew gate={gate} />
          <Choices gate={gate} of={gate.field('kit')} draw={(value) => say(value as (typeof KIT)[number])} />
        </Card>
        <Card title="reach">
          <Tick gate={gate} of={gate.field('callBack')} className="field tick" />
          <Field gate={gate} of={gate.field('phone')} type="tel" />
          <Field gate={gate} of={gate.field('remarks')} className="field wide" rows={3} />
        </Card>
      </main>
    </>
  );
}

const reference = new URLSearchParams(location.search).get('reference') ?? '';
const opened = openBooking(reference).catch((error: unknown) => (error instanceof Error ? error : new Error(String(error))));
createRoot(document.getElementById('app')!).render(
  <StrictMode>
    <Say value={say}>
      <Booked opened={opened} />
    </Say>
  </StrictMode>,
);
