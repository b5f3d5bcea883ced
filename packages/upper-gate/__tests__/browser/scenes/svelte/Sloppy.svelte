<script lang="ts">
  import { useGate } from 'upper-gate/svelte';
  import { schema } from 'scenes/forms.ts';
  import Field from './Field.svelte';
  const { gate, form } = useGate(schema);
  let arrived = $state(false);
</script>

<form {...form}>
  <Field {gate} of={gate.field('name')} />
  <input name="typo" />
  {#if arrived}<input name="later" />{/if}
  <button onclick={() => (arrived = true)}>plus</button>
  <input type="submit" />
</form>
