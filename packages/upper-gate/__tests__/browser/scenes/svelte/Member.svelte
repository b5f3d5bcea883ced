<script lang="ts">
  import { useGateList } from 'upper-gate/svelte';
  import Field from './Field.svelte';
  import Messages from './Messages.svelte';
  import Rows from './Rows.svelte';
  let { gate, of } = $props();
  const jobs = useGateList(gate, () => of.field('jobs'));
</script>

<Field {gate} of={of.field('name')} />
<Rows list={jobs} drop="Drop">{#snippet row({ handle })}<Field {gate} of={handle} />{/snippet}</Rows>
<span {...jobs.messages}><Messages shown={jobs.shown} /></span>
<button {...jobs.button} onclick={() => jobs.add()}>Job</button>
