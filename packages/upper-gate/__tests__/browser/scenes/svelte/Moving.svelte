<script lang="ts">
  import { onMount } from 'svelte';
  import { useGate, useGateField } from 'upper-gate/svelte';
  import { keep, moving } from 'scenes/forms.ts';
  const { gate, form } = useGate(moving);
  keep(gate);
  const selects = [useGateField(gate, 'harbour'), useGateField(gate, 'berth')];
  const groups = [useGateField(gate, 'side'), useGateField(gate, 'kit')];
  const day = useGateField(gate, 'day');
  onMount(() => void gate.field('day').focus());
</script>

<form {...form}>
  {#each selects as field}
    <p>
      <label {...field.label}>{field.state.label}</label>
      <select {...field.input}>
        <option value="">Choose</option>
        {#each field.state.options ?? [] as option}<option {...field.selectOption(option.value)}>{option.label}</option>{/each}
      </select>
    </p>
  {/each}
  {#each groups as field}
    <fieldset {...field.fieldset}>
      <legend>{field.state.label}</legend>
      {#each field.state.options ?? [] as each (each.value)}<label><input {...field.option(each.value)} /> {each.label}</label>{/each}
    </fieldset>
  {/each}
  <label {...day.label}>{day.state.label}</label> <input {...day.input} /> <i {...day.hint}>{day.state.hint}</i>
  <button>Go</button>
</form>
