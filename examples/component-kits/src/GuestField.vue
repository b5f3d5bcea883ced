<script setup lang="ts">
import InputText from 'primevue/inputtext';
import type { AnyGate, Handle } from 'upper-gate';
import { useGateField } from 'upper-gate/vue';
import KitField from './KitField.vue';
import type { guest as schema } from './mooring.ts';

const { gate, of } = defineProps<{ gate: AnyGate; of: Handle<typeof schema> }>();
const guest = useGateField(gate, () => of);
</script>

<template>
  <KitField :of="guest"><InputText v-bind="guest.component" /></KitField>
</template>
