<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import { useJob } from '@/composables/useJob'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { loadKinds } from '../options'
import DemandTable from './DemandTable.vue'
import SpareAnswer from './SpareAnswer.vue'

defineProps<{ visit?: Schemas['VisitView'] }>()
const loads = defineModel<Schemas['Load'][]>({ required: true })
const dwelling = defineModel<Schemas['Dwelling']>('dwelling', { required: true })
const opened = useJob()
const { asks, label, floor } = useCountry()
const at = (i: number, field: string) => `survey.loads.${i}.${field}`
</script>

<template>
  <FieldGroup id="survey.loads" title="Loads on the supply">
    <NumberField
      v-if="asks('dwelling.floorArea')"
      v-model="dwelling.floorArea"
      name="survey.dwelling.floorArea"
      :label="label('dwelling.floorArea')"
      v-bind="floor"
      :decimals="0"
    />
    <NumberField
      v-if="asks('dwelling.kitchenCircuits')"
      v-model="dwelling.kitchenCircuits"
      name="survey.dwelling.kitchenCircuits"
      :label="label('dwelling.kitchenCircuits')"
      :decimals="0"
    />
    <NumberField
      v-if="asks('dwelling.laundryCircuits')"
      v-model="dwelling.laundryCircuits"
      name="survey.dwelling.laundryCircuits"
      :label="label('dwelling.laundryCircuits')"
      :decimals="0"
    />
    <template #below>
      <div v-for="(l, i) in loads" :key="i" class="load">
        <ChoiceField
          :model-value="l.kind"
          :name="at(i, 'kind')"
          label="Kind"
          :options="loadKinds"
          @update:model-value="(k) => k && (l.kind = k)"
        />
        <TextField v-model="l.name" :name="at(i, 'name')" label="Name" />
        <NumberField v-model="l.power" :name="at(i, 'power')" label="Power" unit="kW" :scale="1000" />
        <NumberField v-model="l.amps" :name="at(i, 'amps')" label="or current" unit="A" />
        <AnswerField
          v-if="l.kind === 'cooker' && asks('loads.withSocket')"
          v-model="l.withSocket"
          :name="at(i, 'withSocket')"
          :label="label('loads.withSocket')"
        />
        <PushButton kind="plain" :aria-label="`Remove ${l.name || l.kind}`" @click="loads.splice(i, 1)">
          Remove
        </PushButton>
      </div>
      <PushButton kind="plain" class="add" @click="loads.push({ kind: 'other' })">Add a load</PushButton>
      <DemandTable :demand="opened.view.demand" />
      <SpareAnswer v-if="visit" :visit="visit" />
    </template>
  </FieldGroup>
</template>

<style scoped>
.load {
  display: grid;
  grid-template-columns: 1.3fr 1.2fr 1fr 1fr minmax(0, 1.1fr) auto;
  gap: 8px 12px;
  align-items: end;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.load .btn {
  grid-column: -2;
}
.add {
  margin: 10px 0;
}
@media (max-width: 1023px) {
  .load {
    grid-template-columns: 1fr 1fr;
  }
  .load .btn {
    grid-column: auto;
  }
}
</style>
