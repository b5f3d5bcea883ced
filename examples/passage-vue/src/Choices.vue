<script setup lang="ts">
// Radios or checkboxes of one field.
import type { Word } from 'lock-passage/words';
import type { AnyGate, Handle } from 'upper-gate';
import { useGateField } from 'upper-gate/vue';
import { inject } from 'vue';
import Messages from './Messages.vue';
import { SAY } from './say.ts';

const { gate, of } = defineProps<{ gate: AnyGate; of: Handle; valueToo?: boolean }>();
const say = inject(SAY)!;
const field = useGateField(gate, () => of);
</script>

<template>
  <fieldset class="field wide choices" v-bind="field.fieldset">
    <legend>{{ field.state.label }}</legend>
    <span v-if="field.state.hint" class="hint" v-bind="field.hint">{{ field.state.hint }}</span>
    <span class="options">
      <label v-for="{ value } in of.options" :key="value">
        <input v-bind="field.option(value)" /> <b v-if="valueToo">{{ value }}</b> {{ say(value as Word) }}
      </label>
    </span>
    <span class="messages" v-bind="field.messages"><Messages :shown="field.state.shown" /></span>
  </fieldset>
</template>
