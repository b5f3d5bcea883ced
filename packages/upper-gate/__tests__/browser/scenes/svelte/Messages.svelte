<script lang="ts">
  let { shown } = $props();
</script>

{#each shown as { message, severity }, i}{i > 0 ? ' ' : ''}<span data-gate-severity={severity}>{message}</span>{/each}
