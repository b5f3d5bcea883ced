<script setup lang="ts">
// A label, a control and messages. Further attributes go to the control.
import type { AnyGate, Handle } from 'upper-gate';
import { useGateField } from 'upper-gate/vue';
import Messages from './Messages.vue';

defineOptions({ inheritAttrs: false });
const { gate, of, as = 'input' } = defineProps<{ gate: AnyGate; of: Handle; as?: 'input' | 'select' | 'textarea'; layout?: string }>();
const field = useGateField(gate, () => of);
</script>

<template>
  <p class="field" :class="layout">
    <label v-bind="field.label">{{ field.state.label }}</label>
    <span v-if="field.state.hint" class="hint" v-bind="field.hint">{{ field.state.hint }}</span>
    <component :is="as" v-bind="{ ...field.input, ...$attrs }"><slot /></component>
    <span v-if="as === 'textarea'" class="hint count" v-bind="field.counter">{{ field.state.counter }}</span>
    <span class="messages" v-bind="field.messages"><Messages :shown="field.state.shown" /></span>
  </p>
</template>
