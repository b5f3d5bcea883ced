<script lang="ts">
  import { useGateField, useGateState, usePostedGate } from 'upper-gate/svelte';
  import { book, count, keep, schema } from 'scenes/forms.ts';
  import Crew from './Crew.svelte';
  import Field from './Field.svelte';
  import Summary from './Summary.svelte';
  let { posted, initial } = $props();
  const idPrefix = $props.id();
  const booking = usePostedGate(schema, { focus: 'summary', action: book, posted, initial, idPrefix });
  const { gate } = booking;
  keep(gate);
  count('the form');
  const kind = useGateField(gate, 'kind');
  const side = useGateField(gate, 'side');
  const state = useGateState(gate);
</script>

<form {...booking.form} action="/send" method="post" data-answer={booking.answer?.title}>
  <Summary {gate} />
  <Field {gate} of={gate.field('name')} />
  <Field {gate} of={gate.field('again')} />
  <select aria-label="Kind" {...kind.input}>
    {#each ['', 'barge', 'canoe'] as value}<option {...kind.selectOption(value)}>{value}</option>{/each}
  </select>
  <input aria-label="Port" {...side.option('port')} /> <input aria-label="Starboard" {...side.option('starboard')} />
  <Field {gate} of={gate.field('ok')} />
  <Crew {gate} />
  <button type="submit" name="way" value="up">Go</button>
  <output>{`${state.current.status} ${state.current.errorCount}`}</output>
</form>
