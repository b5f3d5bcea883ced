<script lang="ts">
  import { useGateList } from 'upper-gate/svelte';
  import { count } from 'scenes/forms.ts';
  import Field from './Field.svelte';
  import Messages from './Messages.svelte';
  import Rows from './Rows.svelte';
  let { gate } = $props();
  const crew = useGateList(gate, 'crew');
  const noted = (_: unknown) => (count('the list'), '');
</script>

<fieldset>
  <span {...crew.hint}>{crew.hintText}</span>
  <Rows list={crew}>{#snippet row({ handle })}<Field {gate} of={handle} />{/snippet}</Rows>
  <span {...crew.messages}><Messages shown={crew.shown} /></span>
  <button {...crew.button} onclick={() => crew.add()}>Add</button>{noted(crew.rows)}
</fieldset>
