<script lang="ts">
  import type { AnyGate } from 'upper-gate';
  import { useGateSummary } from 'upper-gate/svelte';
  import Messages from './Messages.svelte';

  const { gate }: { gate: AnyGate } = $props();
  const summary = useGateSummary(() => gate);
</script>

<section class="summary" {...summary.place}>
  <h2 {...summary.heading}>{summary.text}</h2>
  <ul>
    {#each summary.errors as error (error.key)}
      <li>
        {#if error.element}<a {...summary.link(error)}>{error.text}</a>{:else}{error.text}{/if}
      </li>
    {/each}
  </ul>
</section>
<div class="whole" {...summary.line}><Messages shown={summary.lineMessages} /></div>
