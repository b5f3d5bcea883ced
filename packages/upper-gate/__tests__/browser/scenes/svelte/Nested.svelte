<script lang="ts">
  import { useGate, useGateList } from 'upper-gate/svelte';
  import { keep, nested } from 'scenes/forms.ts';
  import Field from './Field.svelte';
  import Member from './Member.svelte';
  import Rows from './Rows.svelte';
  const { gate, form } = useGate(nested);
  keep(gate);
  const crew = useGateList(gate, 'crew');
</script>

<form {...form}>
  <Field {gate} of={gate.field('vessel')} />
  <Rows list={crew}>{#snippet row(of)}<Member {gate} {of} />{/snippet}</Rows>
  <button type="button" onclick={() => crew.add()}>Add</button>
  <button>Go</button>
</form>
