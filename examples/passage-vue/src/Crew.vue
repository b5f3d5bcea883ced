<script setup lang="ts">
import type { PassageGate } from './gate.ts';
import { useGateList } from 'upper-gate/vue';
import { inject } from 'vue';
import Field from './Field.vue';
import Messages from './Messages.vue';
import { SAY } from './say.ts';

const { gate } = defineProps<{ gate: PassageGate }>();
const say = inject(SAY)!;
const crew = useGateList(gate, 'crew');
</script>

<template>
  <fieldset class="wide crew">
    <legend>{{ crew.label }}</legend>
    <fieldset v-for="(row, index) in crew.rows" :key="row.key" class="row wide">
      <legend>{{ say('member') }} {{ index + 1 }}</legend>
      <Field :gate="gate" :of="row.field('name')" autocomplete="off" />
      <Field :gate="gate" :of="row.field('age')" type="number" inputmode="numeric" />
      <span class="tools">
        <button type="button" class="quiet" data-gate-move="up" @click="crew.move(index, index - 1)">{{ say('up') }}</button>
        <button type="button" class="quiet" @click="crew.remove(index)">{{ say('remove') }}</button>
      </span>
    </fieldset>
    <span class="messages" v-bind="crew.messages"><Messages :shown="crew.shown" /></span>
    <button v-bind="crew.button" class="quiet" data-gate-add="crew" @click="crew.add()">{{ say('addMember') }}</button>
  </fieldset>
</template>
