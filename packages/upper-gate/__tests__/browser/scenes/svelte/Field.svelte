<script lang="ts">
  import { useGateField } from 'upper-gate/svelte';
  import { count } from 'scenes/forms.ts';
  import Messages from './Messages.svelte';
  let { gate, of } = $props();
  const field = useGateField(gate, () => of);
  const noted = (path: string) => (count(path), '');
</script>

<p>
  <label {...field.label}>{field.state.label}</label> <span {...field.hint}>{field.state.hint}</span> <input {...field.input} />
  <span {...field.messages}><Messages shown={field.state.shown} /></span>{noted(field.state.path)}
</p>
