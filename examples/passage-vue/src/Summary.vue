<script setup lang="ts">
import type { AnyGate } from 'upper-gate';
import { useGateSummary } from 'upper-gate/vue';
import Messages from './Messages.vue';

const { gate } = defineProps<{ gate: AnyGate }>();
const summary = useGateSummary(gate);
</script>

<template>
  <section class="summary" v-bind="summary.place">
    <h2 v-bind="summary.heading">{{ summary.text }}</h2>
    <ul>
      <li v-for="error in summary.errors" :key="error.key">
        <a v-if="error.element" v-bind="summary.link(error)">{{ error.text }}</a>
        <template v-else>{{ error.text }}</template>
      </li>
    </ul>
  </section>
  <div class="whole" v-bind="summary.line"><Messages :shown="summary.lineMessages" /></div>
</template>
