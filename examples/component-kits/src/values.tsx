// The inputs of a kit that call back with values, or with events where they are inputs of HTML. It draws labels itself.

import './trustPlainText.ts';
import {
  Button,
  Checkbox,
  FileInput,
  MantineProvider,
  MultiSelect,
  NumberInput,
  Radio,
  Select,
  Slider,
  Switch,
  TextInput,
} from '@mantine/core';
import '@mantine/core/styles.css';
import { StrictMode, useState } from 'react';
import { createRoot } from 'react-dom/client';
import type { AnyGate, Handle } from 'upper-gate';
import { useGate, useGateField, useGateList } from 'upper-gate/react';
import { Field } from './Field.tsx';
import { initial, mooring, shown, type guest as schema } from './mooring.ts';
import './page.css';

function GuestField({ gate, of }: { readonly gate: AnyGate; readonly of: Handle<typeof schema> }) {
  const guest = useGateField(gate, of);
  return (
    <Field of={guest}>
      <TextInput label={guest.state.label} {...guest.component} />
    </Field>
  );
}

function Mooring() {
  const [booked, setBooked] = useState('');
  const { gate, form } = useGate(mooring, { initial, submit: (data) => setBooked(shown(data)) });
  const vessel = useGateField(gate, 'vessel');
  const lengthM = useGateField(gate, 'lengthM');
  const from = useGateField(gate, 'from');
  const quay = useGateField(gate, 'quay');
  const services = useGateField(gate, 'services');
  const power = useGateField(gate, 'power');
  const lines = useGateField(gate, 'lines');
  const fenders = useGateField(gate, 'fenders');
  const early = useGateField(gate, 'early');
  const papers = useGateField(gate, 'papers');
  const rules = useGateField(gate, 'rules');
  const guests = useGateList(gate, 'guests');
  const { value: isEarly, ...earlyProps } = early.component;
  const { value: isRead, ...rulesProps } = rules.component;
  return (
    <form {...form}>
      <h1>Book a mooring</h1>
      <Field of={vessel}>
        <TextInput label={vessel.state.label} {...vessel.component} />
      </Field>
      <Field of={lengthM}>
        <NumberInput label={lengthM.state.label} {...lengthM.component} value={lengthM.component.value ?? ''} />
      </Field>
      <Field of={from}>
        <TextInput label={from.state.label} type="date" {...from.component} />
      </Field>
      <Field of={quay}>
        <Select label={quay.state.label} data={quay.state.options ?? []} {...quay.component} value={quay.component.value || null} />
      </Field>
      <Field of={services}>
        <MultiSelect
          label={services.state.label}
          data={services.state.options ?? []}
          {...services.component}
          value={[...services.component.value]}
        />
      </Field>
      <Field of={power}>
        <Radio.Group label={power.state.label} {...power.component}>
          {power.state.options?.map((option) => (
            <Radio key={option.value} {...option} />
          ))}
        </Radio.Group>
      </Field>
      <Field of={lines}>
        <Checkbox.Group label={lines.state.label} {...lines.component} value={[...lines.component.value]}>
          {lines.state.options?.map((option) => (
            <Checkbox key={option.value} {...option} />
          ))}
        </Checkbox.Group>
      </Field>
      <Field of={fenders}>
        <div id={fenders.label.id}>{fenders.state.label}</div>
        <Slider {...fenders.component} value={fenders.component.value ?? 0} max={12} thumbProps={{ 'aria-labelledby': fenders.label.id }} />
      </Field>
      <Field of={early}>
        <Switch label={early.state.label} {...earlyProps} checked={isEarly} />
      </Field>
      <Field of={papers}>
        <FileInput label={papers.state.label} {...papers.component} value={papers.component.value ?? null} />
      </Field>
      <fieldset>
        <legend>{guests.label}</legend>
        {guests.rows.map((row, index) => (
          <div className="row" key={row.key}>
            <GuestField gate={gate} of={row.handle} />
            <Button variant="default" onClick={() => guests.remove(index)} aria-label={`Remove guest ${index + 1}`}>
              Remove
            </Button>
          </div>
        ))}
        <span {...guests.messages} />
        <Button variant="default" {...guests.button} onClick={() => guests.add()}>
          Add a guest
        </Button>
      </fieldset>
      <Field of={rules}>
        <Checkbox label={rules.state.label} {...rulesProps} checked={isRead} />
      </Field>
      <div className="row">
        <Button type="submit">Book the mooring</Button>
        <Button type="reset" variant="default">
          Start over
        </Button>
      </div>
      <output>{booked}</output>
      <a href="/kits/">All kits</a>
    </form>
  );
}

// The kit writes its styles into the page. The server allows them by a nonce, which it gives to the page.
const nonce = document.querySelector('meta[property="csp-nonce"]')?.getAttribute('content') ?? '';

createRoot(document.getElementById('app')!).render(
  <StrictMode>
    <MantineProvider getStyleNonce={() => nonce}>
      <Mooring />
    </MantineProvider>
  </StrictMode>,
);
