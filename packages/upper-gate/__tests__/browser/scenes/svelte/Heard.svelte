<script lang="ts">
  import { useGate, useGateField } from 'upper-gate/svelte';
  import { book, formData, heard, keep } from 'scenes/forms.ts';
  import Crew from './Crew.svelte';
  import Field from './Field.svelte';
  import Options from './Options.svelte';
  const { gate, form } = useGate(heard, { submit: (data) => book(undefined, formData(data)) });
  keep(gate);
  const kit = useGateField(gate, 'kit');
  const tug = useGateField(gate, 'tug');
</script>

<form {...form}>
  <Field {gate} of={gate.field('name')} />
  <Field {gate} of={gate.field('code')} />
  <fieldset {...kit.fieldset}><legend>Kit</legend><Options {gate} name="kit" values={['horn', 'lights']} /></fieldset>
  <fieldset>
    <legend>Course</legend>
    <Options {gate} name="side" values={['port', 'starboard']} />
    <Options {gate} name="way" values={['up', 'down']} />
  </fieldset>
  {#if tug.state.applies}<p><label {...tug.label}>{tug.state.label}</label> <input {...tug.input} /></p>{/if}
  <Crew {gate} />
  <button>Go</button>
  <button type="reset">Reset</button>
</form>
