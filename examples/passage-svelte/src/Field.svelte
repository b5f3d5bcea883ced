<script lang="ts">
  // A label, a control and messages. Further attributes go to the control.
  import type { Snippet } from 'svelte';
  import type { AnyGate, Handle } from 'upper-gate';
  import { useGateField } from 'upper-gate/svelte';
  import Messages from './Messages.svelte';

  interface Props {
    gate: AnyGate;
    of: Handle;
    as?: 'input' | 'select' | 'textarea';
    layout?: string;
    children?: Snippet;
    [attribute: string]: unknown;
  }
  const { gate, of, as = 'input', layout = '', children, ...attributes }: Props = $props();
  const field = useGateField(
    () => gate,
    () => of,
  );
</script>

<p class="field {layout}">
  <label {...field.label}>{field.state.label}</label>
  {#if field.state.hint}<span class="hint" {...field.hint}>{field.state.hint}</span>{/if}
  {#if as === 'select'}
    <select {...field.input} {...attributes}>{@render children?.()}</select>
  {:else if as === 'textarea'}
    <textarea {...field.input} {...attributes}></textarea>
    <span class="hint count" {...field.counter}>{field.state.counter}</span>
  {:else}
    <input {...field.input} {...attributes} />
  {/if}
  <span class="messages" {...field.messages}><Messages shown={field.state.shown} /></span>
</p>
