<script lang="ts">
  import { useGateSummary } from 'upper-gate/svelte';
  import Messages from './Messages.svelte';
  let { gate } = $props();
  const summary = useGateSummary(gate);
</script>

<div {...summary.line}><Messages shown={summary.lineMessages} /></div>
<section {...summary.place}>
  <h2 {...summary.heading}>{summary.text}</h2>
  {#each summary.errors as error (error.key)}<a {...summary.link(error)}>{error.message}</a>{/each}
</section>
