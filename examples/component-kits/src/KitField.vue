<script setup lang="ts">
// A field: its label, what the kit draws, its hint, its messages.
import type { GateField } from 'upper-gate/vue';

const { of } = defineProps<{ of: Pick<GateField, 'state' | 'label' | 'hint' | 'messages'>; around?: boolean }>();
</script>

<template>
  <div>
    <label v-if="!around" v-bind="of.label">{{ of.state.label }}</label>
    <slot />
    <span v-if="of.state.hint" class="hint" v-bind="of.hint">{{ of.state.hint }}</span>
    <span v-bind="of.messages"
      ><span v-for="finding in of.state.shown" :key="finding.code" :data-gate-severity="finding.severity"
        >{{ finding.message }}
      </span></span
    >
  </div>
</template>
