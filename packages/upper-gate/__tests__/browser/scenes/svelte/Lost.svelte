<script lang="ts">
  import { useGate, useGateField } from 'upper-gate/svelte';
  import { answer, keep, lost } from 'scenes/forms.ts';
  import Field from './Field.svelte';
  const { gate, form } = useGate(lost, { submit: answer });
  keep(gate);
  const again = useGateField(gate, 'again');
  // As an author's own word: what changes here is left alone.
  const { ...input } = again.input;
</script>

<form {...form}>
  <Field {gate} of={gate.field('name')} />
  <input {...input} aria-label="Again" hidden />
  <button>Go</button>
</form>
