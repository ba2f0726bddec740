<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import TimeField from '@/kit/TimeField.vue'
import { attitudes, inlets, phases } from '../options'

const props = defineProps<{ bays: Schemas['Bay'][] }>()
const vehicles = defineModel<Schemas['Vehicle'][]>({ required: true })
const { length } = useCountry()
const lone = computed(() => props.bays.length === 1 && vehicles.value.length === 1)
const bayOptions = computed(() => props.bays.map((b) => ({ value: b.id, text: `bay ${b.id}` })))
const at = (i: number, field: string) => `survey.vehicles.${i}.${field}`
</script>

<template>
  <FieldGroup id="survey.vehicles" title="Vehicles">
    <template #below>
      <div v-for="(v, i) in vehicles" :key="i" class="vehicle">
        <TextField v-model="v.name" :name="at(i, 'name')" label="What it is, without make" />
        <NumberField v-model="v.onBoard" :name="at(i, 'onBoard')" label="On-board charger" unit="kW" :scale="1000" />
        <ChoiceField v-model="v.phases" :name="at(i, 'phases')" label="Its phases" :options="phases" />
        <NumberField
          v-if="v.phases === 3"
          v-model="v.onePhase"
          :name="at(i, 'onePhase')"
          label="On one phase it takes"
          unit="A"
          hint="empty: a third"
        />
        <NumberField v-model="v.battery" :name="at(i, 'battery')" label="Battery" unit="kWh" />
        <NumberField v-model="v.energy" :name="at(i, 'energy')" label="Needed by departure" unit="kWh" />
        <TimeField v-model="v.arrival" :name="at(i, 'arrival')" label="Plugged in at" />
        <TimeField v-model="v.departure" :name="at(i, 'departure')" label="Leaves at" />
        <ChoiceField v-model="v.inlet" :name="at(i, 'inlet')" label="Inlet" :options="inlets" />
        <ChoiceField v-model="v.attitude" :name="at(i, 'attitude')" label="Parked" :options="attitudes" />
        <ChoiceField
          v-if="bays.length"
          v-model="v.bay"
          :name="at(i, 'bay')"
          label="Stands in"
          :empty="lone ? `bay ${bays[0]!.id}, the only one` : undefined"
          :options="bayOptions"
        />
        <NumberField v-model="v.length" :name="at(i, 'length')" label="Length" v-bind="length" hint="empty: usual" />
        <NumberField v-model="v.width" :name="at(i, 'width')" label="Width" v-bind="length" hint="empty: usual" />
        <NumberField
          v-model="v.inletHeight"
          :name="at(i, 'inletHeight')"
          label="Inlet above ground"
          v-bind="length"
          hint="empty: usual"
        />
        <PushButton kind="plain" :aria-label="`Remove ${v.name || 'vehicle'}`" @click="vehicles.splice(i, 1)">
          Remove
        </PushButton>
      </div>
      <PushButton kind="plain" class="add" @click="vehicles.push({})">Add a vehicle</PushButton>
    </template>
  </FieldGroup>
</template>

<style scoped>
.vehicle {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 8px 14px;
  align-items: start;
  padding: 10px 0;
  border-bottom: 1px solid var(--line);
}
.vehicle .btn {
  align-self: end;
}
.add {
  margin-top: 10px;
}
</style>
