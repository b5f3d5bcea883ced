<script lang="ts">
  import { useGate } from 'upper-gate/svelte';
  import { count, keep, many } from 'scenes/forms.ts';
  import Field from './Field.svelte';
  const { gate, form } = useGate(many);
  keep(gate);
  count('the form');
</script>

<form {...form}>
  {#each Object.keys(many.fields) as name}<Field {gate} of={gate.field(name)} />{/each}
</form>
