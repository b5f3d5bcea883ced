<script setup lang="ts">
// A box to tick, within its label.
import type { AnyGate, Handle } from 'upper-gate';
import { useGateField } from 'upper-gate/vue';
import Messages from './Messages.vue';

const { gate, of } = defineProps<{ gate: AnyGate; of: Handle; plain?: boolean }>();
const field = useGateField(gate, () => of);
</script>

<template>
  <p class="field" :class="plain ? 'wide' : 'tick'">
    <label :class="{ plain }"><input v-bind="field.input" /> {{ field.state.label }}</label>
    <span class="messages" v-bind="field.messages"><Messages :shown="field.state.shown" /></span>
  </p>
</template>
