<script lang="ts">
  // Radios or checkboxes of one field.
  import type { Word } from 'lock-passage/words';
  import type { AnyGate, Handle } from 'upper-gate';
  import { useGateField } from 'upper-gate/svelte';
  import Messages from './Messages.svelte';
  import { useSay } from './say.ts';

  const { gate, of, valueToo = false }: { gate: AnyGate; of: Handle; valueToo?: boolean } = $props();
  const say = useSay();
  const field = useGateField(
    () => gate,
    () => of,
  );
</script>

<fieldset class="field wide choices" {...field.fieldset}>
  <legend>{field.state.label}</legend>
  {#if field.state.hint}<span class="hint" {...field.hint}>{field.state.hint}</span>{/if}
  <span class="options">
    {#each of.options ?? [] as { value } (value)}
      <label>
        <input {...field.option(value)} />
        {#if valueToo}<b>{value}</b>{/if}
        {say(value as Word)}
      </label>
    {/each}
  </span>
  <span class="messages" {...field.messages}><Messages shown={field.state.shown} /></span>
</fieldset>
