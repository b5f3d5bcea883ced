<script setup lang="ts">
// The inputs of a Vue kit, with v-model. Those that contain an HTML input take its id as `inputId`.
import Button from 'primevue/button';
import Checkbox from 'primevue/checkbox';
import DatePicker from 'primevue/datepicker';
import InputNumber from 'primevue/inputnumber';
import InputText from 'primevue/inputtext';
import MultiSelect from 'primevue/multiselect';
import RadioButton from 'primevue/radiobutton';
import Select from 'primevue/select';
import Slider from 'primevue/slider';
import ToggleSwitch from 'primevue/toggleswitch';
import { ref } from 'vue';
import { useGate, useGateField, useGateList, type ComponentBundle, type GateField } from 'upper-gate/vue';
import GuestField from './GuestField.vue';
import KitField from './KitField.vue';
import { initial, mooring, shown } from './mooring.ts';

const booked = ref('');
const { gate, form } = useGate(mooring, { initial, submit: (data) => void (booked.value = shown(data)) });
const vessel = useGateField(gate, 'vessel');
const lengthM = useGateField(gate, 'lengthM');
const from = useGateField(gate, 'from');
const quay = useGateField(gate, 'quay');
const services = useGateField(gate, 'services');
const power = useGateField(gate, 'power');
const lines = useGateField(gate, 'lines');
const fenders = useGateField(gate, 'fenders');
const early = useGateField(gate, 'early');
const papers = useGateField(gate, 'papers');
const rules = useGateField(gate, 'rules');
const guests = useGateList(gate, 'guests');

/** The props of a field whose component has its input inside. */
const inside = <V,>({ id: inputId, ...props }: ComponentBundle<V>) => ({ ...props, inputId });
/** The props of the radio of one option. */
const radio = (field: GateField, option: string) => {
  const { ref, id: inputId, name, value, checked, onChange, onBlur } = field.option(option);
  return { ref, inputId, name, value, modelValue: checked ? value : undefined, 'onUpdate:modelValue': onChange, onBlur };
};
/** The props of the box of one option. */
const box = (field: GateField, option: string) => {
  const { ref, id: inputId, name, checked, onChange, onBlur } = field.option(option);
  return { ref, inputId, name, binary: true, modelValue: checked, 'onUpdate:modelValue': onChange, onBlur };
};
// (The kit wants lists that it might change.)
const quays = [...(quay.state.options ?? [])];
const allServices = [...(services.state.options ?? [])];
const dayOf = (day: string | undefined): Date | undefined => (day ? new Date(`${day}T00:00`) : undefined);
</script>

<template>
  <form v-bind="form">
    <h1>Book a mooring</h1>
    <KitField :of="vessel"><InputText v-bind="vessel.component" /></KitField>
    <KitField :of="lengthM"><InputNumber v-bind="inside(lengthM.component)" :max-fraction-digits="2" /></KitField>
    <KitField :of="from"
      ><DatePicker v-bind="inside(from.component)" :model-value="dayOf(from.component.modelValue)" date-format="yy-mm-dd"
    /></KitField>
    <KitField :of="quay">
      <Select v-bind="inside(quay.component)" :options="quays" option-label="label" option-value="value" :aria-labelledby="quay.label.id" />
    </KitField>
    <KitField :of="services">
      <MultiSelect v-bind="inside(services.component)" :options="allServices" option-label="label" option-value="value" />
    </KitField>
    <KitField :of="power" around>
      <fieldset v-bind="power.fieldset">
        <legend>{{ power.state.label }}</legend>
        <label v-for="{ value, label } in power.state.options" :key="value"><RadioButton v-bind="radio(power, value)" /> {{ label }}</label>
      </fieldset>
    </KitField>
    <KitField :of="lines" around>
      <fieldset v-bind="lines.fieldset">
        <legend>{{ lines.state.label }}</legend>
        <label v-for="{ value, label } in lines.state.options" :key="value"><Checkbox v-bind="box(lines, value)" /> {{ label }}</label>
      </fieldset>
    </KitField>
    <KitField :of="fenders" around>
      <span :id="fenders.label.id">{{ fenders.state.label }}</span>
      <Slider v-bind="fenders.component" :model-value="fenders.component.modelValue ?? 0" :max="12" :aria-labelledby="fenders.label.id" />
    </KitField>
    <KitField :of="early" around>
      <div class="row">
        <ToggleSwitch v-bind="inside(early.component)" /> <label v-bind="early.label">{{ early.state.label }}</label>
      </div>
    </KitField>
    <KitField :of="papers"><input v-bind="papers.input" /></KitField>
    <fieldset>
      <legend>{{ guests.label }}</legend>
      <div v-for="(row, index) in guests.rows" :key="row.key" class="row">
        <GuestField :gate="gate" :of="row.handle" />
        <Button type="button" severity="secondary" label="Remove" :aria-label="`Remove guest ${index + 1}`" @click="guests.remove(index)" />
      </div>
      <span v-bind="guests.messages">{{ guests.shown.map(({ message }) => message).join(' ') }}</span>
      <Button severity="secondary" label="Add a guest" v-bind="guests.button" @click="guests.add()" />
    </fieldset>
    <KitField :of="rules" around>
      <div class="row">
        <Checkbox v-bind="inside(rules.component)" binary /> <label v-bind="rules.label">{{ rules.state.label }}</label>
      </div>
    </KitField>
    <div class="row">
      <Button type="submit" label="Book the mooring" />
      <Button type="reset" severity="secondary" label="Start over" />
    </div>
    <output>{{ booked }}</output>
    <a href="/kits/">All kits</a>
  </form>
</template>
