<script lang="ts">
  import { useGateField } from 'upper-gate/svelte';
  import Messages from './Messages.svelte';
  let { gate, name, values } = $props();
  const field = useGateField(gate, name);
</script>

<span {...field.hint}>{field.state.hint}</span>
{#each values as value}<label><input {...field.option(value)} /> {value}</label>{/each}
<span {...field.messages}><Messages shown={field.state.shown} /></span>
