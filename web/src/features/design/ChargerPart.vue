<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { ask, client } from '@/api/client'
import { terms, useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TextField from '@/kit/TextField.vue'
import { enclosures, outlets, phases } from '../options'
import type { Circuit } from './shape'

const props = defineProps<{ index: number }>()
const circuit = defineModel<Circuit>({ required: true })
const at = (field: string) => `design.circuits.${props.index}.charger.${field}`
const { page, asks, label, length } = useCountry()
const terminals = terms(page.value.terminals, (t) => Number(t) as NonNullable<Circuit['charger']['terminals']>)
const types = useQuery({
  queryKey: ['chargers'],
  queryFn: () => ask(client.GET('/api/chargers')),
  staleTime: Infinity,
})
const options = computed(
  () =>
    types.data.value?.filter((t) => t.country === page.value.id).map((t) => ({ value: t.type!, text: t.type! })) ?? [],
)
/** Takes a type's figures over; the serial number is the unit's own and stays, and what becomes of it is the job's. */
function fill(type?: string) {
  const found = types.data.value?.find((t) => t.type === type)
  if (!found) return
  const { openPen, country, ...figures } = found
  if (country !== page.value.id) return
  const { serial, fate, moved, closes } = circuit.value.charger
  circuit.value.charger = { ...figures, serial, fate, moved, closes }
  if (openPen) circuit.value.earthing.openPen = openPen as Circuit['earthing']['openPen']
}
</script>

<template>
  <FieldGroup title="Charger">
    <ChoiceField
      :model-value="undefined"
      :name="at('fill')"
      label="Fill from a sample type"
      empty="choose, then check the label"
      :options="options"
      @update:model-value="fill"
    />
    <TextField v-model="circuit.charger.type" :name="at('type')" label="Type, in your words" />
    <TextField v-model="circuit.charger.serial" :name="at('serial')" label="Serial number" mono />
    <NumberField v-model="circuit.charger.rating" :name="at('rating')" label="Rated" unit="A" :decimals="0" />
    <ChoiceField v-model="circuit.charger.phases" :name="at('phases')" label="Phases" :options="phases" />
    <ChoiceField v-model="circuit.charger.outlet" :name="at('outlet')" label="Cord" :options="outlets" />
    <NumberField
      v-if="circuit.charger.outlet === 'tethered'"
      v-model="circuit.charger.cordLength"
      :name="at('cordLength')"
      label="Cord length"
      v-bind="length"
    />
    <NumberField
      v-if="asks('circuit.charger.supplyCord') && circuit.connection === 'receptacle'"
      v-model="circuit.charger.supplyCord"
      :name="at('supplyCord')"
      :label="label('circuit.charger.supplyCord')"
      v-bind="length"
    />
    <NumberField
      v-model="circuit.charger.entryDepth"
      :name="at('entryDepth')"
      label="Depth of the cable’s entry"
      hint="by the maker’s sheet; names the cutter"
      unit="mm"
      :decimals="0"
    />
    <ChoiceField
      v-model="circuit.charger.terminals"
      :name="at('terminals')"
      label="Terminals marked for"
      :options="terminals"
    />
    <AnswerField
      v-if="asks('circuit.charger.dcDetection')"
      v-model="circuit.charger.dcDetection"
      :name="at('dcDetection')"
      :label="label('circuit.charger.dcDetection')"
    />
    <TextField
      v-if="asks('circuit.charger.ip')"
      v-model="circuit.charger.ip"
      :name="at('ip')"
      :label="label('circuit.charger.ip')"
      mono
    />
    <ChoiceField
      v-if="asks('circuit.charger.enclosure')"
      v-model="circuit.charger.enclosure"
      :name="at('enclosure')"
      :label="label('circuit.charger.enclosure')"
      :options="enclosures"
    />
    <TextField
      v-if="asks('circuit.charger.listing')"
      v-model="circuit.charger.listing"
      :name="at('listing')"
      :label="label('circuit.charger.listing')"
    />
    <AnswerField
      v-if="asks('circuit.charger.exports')"
      v-model="circuit.charger.exports"
      :name="at('exports')"
      :label="label('circuit.charger.exports')"
    />
    <AnswerField
      v-if="asks('circuit.charger.cordManaged')"
      v-model="circuit.charger.cordManaged"
      :name="at('cordManaged')"
      :label="label('circuit.charger.cordManaged')"
    />
    <AnswerField
      v-if="asks('circuit.charger.needsNeutral')"
      v-model="circuit.charger.needsNeutral"
      :name="at('needsNeutral')"
      :label="label('circuit.charger.needsNeutral')"
    />
    <NumberField
      v-model="circuit.charger.warrantyYears"
      :name="at('warrantyYears')"
      label="Maker’s warranty"
      unit="years"
      :decimals="0"
    />
    <TextField v-model="circuit.charger.manual" :name="at('manual')" label="Maker’s manual, address" />
  </FieldGroup>
</template>
