<script lang="ts">
  // A box to tick, within its label.
  import type { AnyGate, Handle } from 'upper-gate';
  import { useGateField } from 'upper-gate/svelte';
  import Messages from './Messages.svelte';

  const { gate, of, plain = false }: { gate: AnyGate; of: Handle; plain?: boolean } = $props();
  const field = useGateField(
    () => gate,
    () => of,
  );
</script>

<p class="field {plain ? 'wide' : 'tick'}">
  <label class={{ plain }}><input {...field.input} /> {field.state.label}</label>
  <span class="messages" {...field.messages}><Messages shown={field.state.shown} /></span>
</p>
