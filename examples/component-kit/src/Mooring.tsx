// Booking a mooring, with the inputs of a component kit: the library provides states, messages and descriptions, the kit
// draws it.

import {
  Alert,
  Button,
  Checkbox,
  FormControlLabel,
  FormHelperText,
  FormLabel,
  Link,
  MenuItem,
  Radio,
  RadioGroup,
  Stack,
  TextField,
  Typography,
} from '@mui/material';
import { useState, type ReactNode } from 'react';
import {
  boolean,
  choice,
  date,
  email,
  group,
  length,
  list,
  mustBeTrue,
  number,
  range,
  required,
  text,
  type AnyGate,
  type Handle,
} from 'upper-gate';
import { useGate, useGateField, useGateList } from 'upper-gate/react';

const mooring = group({
  vessel: text({ label: 'Vessel name', hint: 'As painted on the bow' }, required(), length({ min: 2, max: 40 })),
  lengthM: number('Length (m)', required(), range({ min: 2, max: 30 })),
  from: date('First night', required(), range({ min: '2027-03-01', max: '2027-10-31' })),
  quay: choice('Quay', ['North quay', 'South quay', 'Island'], required()),
  power: choice('Shore power', ['none', '6 A', '16 A'], required()),
  guests: list('Guests', text('Name of guest', required()), length({ max: 4 })),
  email: text('E-mail', required(), email()),
  rules: boolean('I have read the harbour rules', mustBeTrue()),
});

interface FieldProps {
  readonly gate: AnyGate;
  readonly of: Handle;
}

/** A text field of the kit, or a select of it, for one field of the form. */
function KitField({ gate, of, type, children }: FieldProps & { readonly type?: string; readonly children?: ReactNode }) {
  const { state, input, messages, hint } = useGateField(gate, of);
  const { ref, id, name, value, required, onChange, onBlur, type: ownType, ...aria } = input;
  const select = children !== undefined;
  return (
    <TextField
      id={id}
      name={name}
      label={state.label}
      value={value}
      required={required}
      type={type ?? ownType}
      select={select}
      error={aria['aria-invalid']}
      onChange={onChange}
      onBlur={onBlur}
      // The kit's select is no control of HTML: what is around it leads to the element that takes the focus.
      {...(select ? { ref } : { inputRef: ref })}
      helperText={
        <>
          <span {...hint} style={{ display: 'block' }} />
          <span {...messages} />
        </>
      }
      slotProps={{
        htmlInput: aria,
        select: { SelectDisplayProps: aria },
        inputLabel: { shrink: true },
      }}
    >
      {children}
    </TextField>
  );
}

/** A group of radios. */
function KitRadios({ gate, of }: FieldProps) {
  const { state, label, fieldset, option, messages } = useGateField(gate, of);
  return (
    <Stack>
      <FormLabel id={label.id} component="div" required={state.required} error={state.shown.length > 0}>
        {label.children}
      </FormLabel>
      {/* The kit's group is one of radios to screen readers: it has the name and the state, in place of a fieldset. */}
      <RadioGroup row {...fieldset} aria-labelledby={label.id} aria-required={state.required} aria-invalid={state.shown.length > 0}>
        {of.options?.map(({ value }) => {
          const { ref, id, onChange, onBlur, checked, name } = option(value);
          return (
            <FormControlLabel
              key={value}
              label={value}
              control={
                <Radio
                  id={id}
                  name={name}
                  value={value}
                  checked={checked}
                  onChange={onChange}
                  onBlur={onBlur}
                  slotProps={{ input: { ref } }}
                />
              }
            />
          );
        })}
      </RadioGroup>
      <FormHelperText component="div" error>
        <span {...messages} />
      </FormHelperText>
    </Stack>
  );
}

function KitCheckbox({ gate, of }: FieldProps) {
  const { label, input, messages } = useGateField(gate, of);
  const { ref, id, name, checked, required, onChange, onBlur, ...aria } = input;
  return (
    <div>
      <FormControlLabel
        required={required}
        label={label.children}
        control={
          <Checkbox
            id={id}
            name={name}
            checked={checked ?? false}
            onChange={onChange}
            onBlur={onBlur}
            slotProps={{ input: { ref, 'aria-describedby': aria['aria-describedby'], 'aria-invalid': aria['aria-invalid'] } }}
          />
        }
      />
      <FormHelperText component="div" error>
        <span {...messages} />
      </FormHelperText>
    </div>
  );
}

export function Mooring() {
  const [booked, setBooked] = useState('');
  const { gate, form } = useGate(mooring, {
    submit: ({ vessel, quay }) => setBooked(`${vessel} has a place at the ${quay}. (This page has no server: nothing was sent.)`),
  });
  const { rows, button, messages, label, add, remove } = useGateList(gate, 'guests');
  return (
    <Stack component="main" spacing={3} sx={{ maxWidth: 560, mx: 'auto', p: 3 }}>
      <Typography variant="h4" component="h1">
        Book a mooring
      </Typography>
      <form {...form}>
        <Stack spacing={2.5}>
          <KitField gate={gate} of={gate.field('vessel')} />
          <KitField gate={gate} of={gate.field('lengthM')} />
          <KitField gate={gate} of={gate.field('from')} />
          <KitField gate={gate} of={gate.field('quay')}>
            {gate.field('quay').options!.map(({ value }) => (
              <MenuItem key={value} value={value}>
                {value}
              </MenuItem>
            ))}
          </KitField>
          <KitRadios gate={gate} of={gate.field('power')} />
          <Stack component="fieldset" spacing={1.5} sx={{ border: 0, p: 0, m: 0 }}>
            <FormLabel component="legend">{label}</FormLabel>
            {rows.map((row, index) => (
              <Stack key={row.key} direction="row" spacing={1} sx={{ alignItems: 'start' }}>
                <KitField gate={gate} of={row.handle} />
                <Button type="button" onClick={() => remove(index)} aria-label={`Remove guest ${index + 1}`}>
                  Remove
                </Button>
              </Stack>
            ))}
            <FormHelperText component="div" error>
              <span {...messages} />
            </FormHelperText>
            <Button {...button} variant="outlined" onClick={() => add()} sx={{ alignSelf: 'start' }}>
              Add a guest
            </Button>
          </Stack>
          <KitField gate={gate} of={gate.field('email')} type="email" />
          <KitCheckbox gate={gate} of={gate.field('rules')} />
          <div role="status">{booked && <Alert severity="success">{booked}</Alert>}</div>
          <Stack direction="row" spacing={2}>
            <Button type="submit" variant="contained">
              Book the mooring
            </Button>
            <Button type="reset" onClick={() => setBooked('')}>
              Start over
            </Button>
          </Stack>
        </Stack>
      </form>
      <Link href="/">All examples</Link>
    </Stack>
  );
}
