// The inputs of a kit of ARIA components: they call back with values, and say "is" before what holds of them.

import './trustPlainText.ts';
import { parseDate } from '@internationalized/date';
import { StrictMode, useState } from 'react';
import { createRoot } from 'react-dom/client';
import {
  Button,
  CheckboxButton,
  CheckboxField,
  CheckboxGroup,
  DateField,
  DateInput,
  DateSegment,
  Group,
  Input,
  Label,
  ListBox,
  ListBoxItem,
  NumberField,
  Popover,
  RadioButton,
  RadioField,
  RadioGroup,
  Select,
  SelectValue,
  Slider,
  SliderThumb,
  SliderTrack,
  SwitchButton,
  SwitchField,
  TextField,
} from 'react-aria-components';
import type { AnyGate, Handle } from 'upper-gate';
import { useGate, useGateField, useGateList, type ComponentBundle } from 'upper-gate/react';
import { Field } from './Field.tsx';
import { initial, mooring, shown, type guest as schema } from './mooring.ts';
import './aria.css';
import './page.css';

/** The props of a field, as this kit calls them. */
const aria = <V,>({ disabled = false, required, ...props }: ComponentBundle<V>) => ({
  ...props,
  isDisabled: disabled,
  isRequired: required,
  isInvalid: props['aria-invalid'],
});

function GuestField({ gate, of }: { readonly gate: AnyGate; readonly of: Handle<typeof schema> }) {
  const guest = useGateField(gate, of);
  return (
    <Field of={guest}>
      <TextField {...aria(guest.component)}>
        <Label>{guest.state.label}</Label>
        <Input />
      </TextField>
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
  const { value: isEarly, ...earlyProps } = aria(early.component);
  const { value: isRead, ...rulesProps } = aria(rules.component);
  const { ref: servicesRef, value: chosenServices, onChange: chooseServices } = services.component;
  return (
    <form {...form}>
      <h1>Book a mooring</h1>
      <Field of={vessel}>
        <TextField {...aria(vessel.component)}>
          <Label>{vessel.state.label}</Label>
          <Input />
        </TextField>
      </Field>
      <Field of={lengthM}>
        <NumberField {...aria(lengthM.component)} value={lengthM.component.value ?? NaN}>
          <Label>{lengthM.state.label}</Label>
          <Input />
        </NumberField>
      </Field>
      <Field of={from}>
        <DateField {...aria(from.component)} value={from.component.value ? parseDate(from.component.value) : null}>
          <Label>{from.state.label}</Label>
          <DateInput>{(segment) => <DateSegment segment={segment} />}</DateInput>
        </DateField>
      </Field>
      <Field of={quay}>
        <Select {...aria(quay.component)} value={quay.component.value || null}>
          <Label>{quay.state.label}</Label>
          <Button>
            <SelectValue />
          </Button>
          <Popover>
            <ListBox>
              {quay.state.options?.map(({ value, label }) => (
                <ListBoxItem key={value} id={value}>
                  {label}
                </ListBoxItem>
              ))}
            </ListBox>
          </Popover>
        </Select>
      </Field>
      <Field of={services}>
        <Group ref={servicesRef} aria-labelledby={services.label.id}>
          <Label id={services.label.id}>{services.state.label}</Label>
          <ListBox
            aria-labelledby={services.label.id}
            selectionMode="multiple"
            selectedKeys={chosenServices}
            onSelectionChange={(keys) => chooseServices(keys === 'all' ? services.state.options?.map(({ value }) => value) : [...keys])}
          >
            {services.state.options?.map(({ value, label }) => (
              <ListBoxItem key={value} id={value}>
                {label}
              </ListBoxItem>
            ))}
          </ListBox>
        </Group>
      </Field>
      <Field of={power}>
        <RadioGroup {...aria(power.component)}>
          <Label>{power.state.label}</Label>
          {power.state.options?.map(({ value, label }) => (
            <RadioField key={value} value={value}>
              <RadioButton>
                <span className="mark" />
                {label}
              </RadioButton>
            </RadioField>
          ))}
        </RadioGroup>
      </Field>
      <Field of={lines}>
        <CheckboxGroup {...aria(lines.component)} value={[...lines.component.value]}>
          <Label>{lines.state.label}</Label>
          {lines.state.options?.map(({ value, label }) => (
            <CheckboxField key={value} value={value}>
              <CheckboxButton>
                <span className="mark" />
                {label}
              </CheckboxButton>
            </CheckboxField>
          ))}
        </CheckboxGroup>
      </Field>
      <Field of={fenders}>
        <Slider {...aria(fenders.component)} value={fenders.component.value ?? 0} minValue={0} maxValue={12}>
          <Label>{fenders.state.label}</Label>
          <SliderTrack>
            <SliderThumb />
          </SliderTrack>
        </Slider>
      </Field>
      <Field of={early}>
        <SwitchField {...earlyProps} isSelected={isEarly}>
          <SwitchButton>
            <span className="mark" />
            {early.state.label}
          </SwitchButton>
        </SwitchField>
      </Field>
      <Field of={papers}>
        <label {...papers.label} /> <input {...papers.input} />
      </Field>
      <fieldset>
        <legend>{guests.label}</legend>
        {guests.rows.map((row, index) => (
          <div className="row" key={row.key}>
            <GuestField gate={gate} of={row.handle} />
            <Button onPress={() => guests.remove(index)} aria-label={`Remove guest ${index + 1}`}>
              Remove
            </Button>
          </div>
        ))}
        <span {...guests.messages} />
        <button {...guests.button} onClick={() => guests.add()}>
          Add a guest
        </button>
      </fieldset>
      <Field of={rules}>
        <CheckboxField {...rulesProps} isSelected={isRead}>
          <CheckboxButton>
            <span className="mark" />
            {rules.state.label}
          </CheckboxButton>
        </CheckboxField>
      </Field>
      <div className="row">
        <Button type="submit">Book the mooring</Button>
        <Button type="reset">Start over</Button>
      </div>
      <output>{booked}</output>
      <a href="/kits/">All kits</a>
    </form>
  );
}

createRoot(document.getElementById('app')!).render(
  <StrictMode>
    <Mooring />
  </StrictMode>,
);
