<script lang="ts">
  let { list, row, drop = 'Remove' } = $props();
</script>

{#each list.rows as each, index (each.key)}
  <div>
    {@render row(each)}
    <button type="button" onclick={() => list.move(index, index - 1)}>Up</button>
    <button type="button" onclick={() => list.remove(index)}>{drop}</button>
  </div>
{/each}
