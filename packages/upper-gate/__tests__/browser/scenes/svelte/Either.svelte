<script lang="ts">
  import { useGate, useGateList } from 'upper-gate/svelte';
  import { either, keep } from 'scenes/forms.ts';
  const { gate, form } = useGate(either);
  keep(gate);
  const list = useGateList(gate, 'cargo.items');
</script>

<form {...form}>
  <output>{`${list.label} ${list.rows.length}`}</output>
  <button {...list.button} onclick={() => list.add()}>Add</button>
</form>
