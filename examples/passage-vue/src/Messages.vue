<script setup lang="ts">
import type { Finding } from 'upper-gate';

defineProps<{ shown: readonly Pick<Finding, 'message' | 'severity'>[] }>();
</script>

<template>
  <span v-for="{ message, severity } in shown" :key="message" :data-gate-severity="severity">{{ message }}</span>
</template>
