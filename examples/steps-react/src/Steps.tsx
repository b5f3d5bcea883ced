// The booking in three steps: each is validated before the next, and what was entered is kept in both directions.

import { book, referenceIn } from 'lock-passage/client';
import { BEGINNING } from 'lock-passage/passage';
import { CATALOGUES, say as sayIn, type Word } from 'lock-passage/words';
import { Say } from 'passage-react/fields';
import { Aboard, Boat, Outcome, passage, Reach, SendButton, Summary, Voyage, type PassageGate } from 'passage-react/parts';
import { useEffect, useRef, useState } from 'react';
import { useGate, useGateState } from 'upper-gate/react';
import { isComplete, reviewOf, type ReviewEntry } from 'upper-gate/wizard';

const say = (word: Word) => sayIn('en', word);

/** The steps: what each draws, and which fields it is about. */
const STEPS = [
  {
    title: 'Boat and day',
    fields: ['vessel', 'registration', 'lengthM', 'beam', 'kind', 'insurance', 'arrival', 'window', 'slot'],
    draw: (gate: PassageGate) => (
      <>
        <Boat gate={gate} />
        <KeptFile gate={gate} />
        <Voyage gate={gate} />
      </>
    ),
  },
  { title: 'On board', fields: ['crew', 'cargo', 'kit'], draw: (gate: PassageGate) => <Aboard gate={gate} /> },
  {
    title: 'How we reach you',
    fields: ['email', 'emailAgain', 'callBack', 'phone', 'remarks', 'terms'],
    draw: (gate: PassageGate) => <Reach gate={gate} />,
  },
] as const;

/** The step on which a field is; what belongs to no step is shown on the last. */
const stepOf = (path: string): number => {
  const found = STEPS.findIndex(({ fields }) => fields.some((field) => path === field || path.startsWith(`${field}.`)));
  return found < 0 ? STEPS.length - 1 : found;
};

/** What is wrong on this step, once its fields have shown it, with links to them. */
function StepErrors({ gate, fields }: { readonly gate: PassageGate; readonly fields: readonly string[] }) {
  const errors = useGateState(gate, (gate) =>
    gate.findings.filter(
      ({ path, severity }) =>
        severity === 'error' &&
        fields.some((field) => path === field || path.startsWith(`${field}.`)) &&
        gate.field(path as 'vessel').revealed,
    ),
  );
  return (
    <section className="summary" role="group" aria-labelledby="step-errors" hidden={errors.length === 0}>
      <h2 id="step-errors">{errors.length === 1 ? 'One entry of this step' : `${errors.length} entries of this step`} to check</h2>
      <ul>
        {errors.map(({ path, message }) => (
          <li key={path + message}>
            <a
              href={`#${path}`}
              onClick={(event) => {
                event.preventDefault();
                gate.field(path as 'vessel').focus();
              }}
            >
              {message}
            </a>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A file that was chosen before this step was left: its control, drawn again, cannot show it. */
function KeptFile({ gate }: { readonly gate: PassageGate }) {
  const chosen = useGateState(gate, (gate) => gate.field('insurance').raw);
  const [kept] = useState(chosen);
  return kept instanceof File && kept === chosen ? (
    <p className="card" id="kept">
      {sayIn('en', 'kept', { file: kept.name })}
    </p>
  ) : null;
}

/** What was entered, as people read it. */
function Entries({ entries }: { readonly entries: readonly ReviewEntry[] }) {
  return (
    <dl className="review">
      {entries.map(({ path, label, text, entries: inner }) => (
        <div key={path}>
          <dt>{label}</dt>
          <dd>
            {text === '' ? 'nothing' : text}
            {inner && <Entries entries={inner} />}
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** All that was entered, for review. */
function Review({ gate }: { readonly gate: PassageGate }) {
  const entries = useGateState(gate, (gate) => reviewOf(gate));
  return (
    <details className="card">
      <summary>Read what you entered</summary>
      <Entries entries={entries} />
    </details>
  );
}

export function Steps() {
  const [step, setStep] = useState(0);
  const [outcome, tell] = useState<readonly string[]>();
  const { gate, form } = useGate(passage, {
    initial: BEGINNING,
    messages: CATALOGUES.en,
    submit: (data, { signal }) => book(data, signal),
  });
  const heading = useRef<HTMLHeadingElement>(null);
  /** Where the focus is to go once the step is drawn: to its heading, or to the field of a path. */
  const wanted = useRef<string>(undefined);
  const { title, fields, draw } = STEPS[step]!;
  const done = useGateState(gate, (gate) => STEPS.map(({ fields }) => isComplete(gate, fields)));
  const isLast = step === STEPS.length - 1;

  const go = (to: number, focus = ''): void => {
    wanted.current = focus;
    setStep(to);
  };
  const next = async (): Promise<void> => {
    if (await gate.validate(fields, { focus: true })) go(step + 1);
  };
  useEffect(() => {
    document.title = `${title} (step ${step + 1} of ${STEPS.length}) · ${say('title')}`;
  }, [title, step]);
  useEffect(() => {
    const path = wanted.current;
    wanted.current = undefined;
    if (path === '') heading.current?.focus();
    else if (path !== undefined) gate.field(path as 'vessel').focus();
  }, [step, gate]);
  useEffect(() => {
    const undo = [
      gate.on('submit', () => tell(undefined)),
      // What is wrong may be on another step.
      gate.on('refused', ({ findings }) => {
        const path = findings.find(({ severity }) => severity === 'error')?.path ?? '';
        if (stepOf(path) !== step) go(stepOf(path), path);
      }),
      gate.on('failed', (error) => console.warn('Not sent:', error)),
      gate.on('accepted', ({ data, reply }) => {
        void referenceIn(reply).then((reference) => tell([`Booked: ${data.vessel}, ${data.arrival}.`, `Your reference is ${reference}.`]));
      }),
    ];
    return () => undo.forEach((each) => each());
  }, [gate, step]);

  return (
    <Say value={say}>
      <header className="top">
        <div className="inner">
          <p className="place">{say('place')}</p>
          <h1>{say('title')}</h1>
          <ol className="steps">
            {STEPS.map((each, index) => (
              <li key={each.title} aria-current={index === step ? 'step' : undefined}>
                {each.title}
                {done[index] && <span className="done">complete</span>}
              </li>
            ))}
          </ol>
        </div>
      </header>
      <main className="inner">
        <form
          {...form}
          onSubmitCapture={(event) => {
            if (isLast) return;
            // The next step, by its button or by Enter; the gate need not hear of it.
            event.preventDefault();
            event.stopPropagation();
            void next();
          }}
        >
          <h2 className="card" tabIndex={-1} ref={heading}>
            Step {step + 1} of {STEPS.length}: {title}
          </h2>
          {isLast ? <Summary gate={gate} /> : <StepErrors gate={gate} fields={fields} />}
          {draw(gate)}
          {isLast && <Review gate={gate} />}
          <Outcome told={outcome} />
          <p className="actions">
            {step > 0 && (
              <button type="button" className="quiet" onClick={() => go(step - 1)}>
                Back
              </button>
            )}
            {isLast ? <SendButton gate={gate} /> : <button type="submit">Next</button>}
          </p>
        </form>
        <p>
          <a href="/">All examples</a>
        </p>
      </main>
    </Say>
  );
}
