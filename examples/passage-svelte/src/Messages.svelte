<script lang="ts">
  import type { Finding } from 'upper-gate';

  const { shown }: { shown: readonly Pick<Finding, 'message' | 'severity'>[] } = $props();
</script>

{#each shown as { message, severity } (message)}<span data-gate-severity={severity}>{message}</span>{/each}
