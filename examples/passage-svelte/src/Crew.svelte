<script lang="ts">
  import { useGateList } from 'upper-gate/svelte';
  import Field from './Field.svelte';
  import type { PassageGate } from './gate.ts';
  import Messages from './Messages.svelte';
  import { useSay } from './say.ts';

  const { gate }: { gate: PassageGate } = $props();
  const say = useSay();
  const crew = useGateList(() => gate, 'crew');
</script>

<fieldset class="wide crew">
  <legend>{crew.label}</legend>
  {#each crew.rows as row, index (row.key)}
    <fieldset class="row wide">
      <legend>{say('member')} {index + 1}</legend>
      <Field {gate} of={row.field('name')} autocomplete="off" />
      <Field {gate} of={row.field('age')} type="number" inputmode="numeric" />
      <span class="tools">
        <button type="button" class="quiet" data-gate-move="up" onclick={() => crew.move(index, index - 1)}>{say('up')}</button>
        <button type="button" class="quiet" onclick={() => crew.remove(index)}>{say('remove')}</button>
      </span>
    </fieldset>
  {/each}
  <span class="messages" {...crew.messages}><Messages shown={crew.shown} /></span>
  <button {...crew.button} class="quiet" data-gate-add="crew" onclick={() => crew.add()}>{say('addMember')}</button>
</fieldset>
