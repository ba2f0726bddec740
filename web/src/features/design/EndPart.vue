<script setup lang="ts">
import { computed } from 'vue'
import { useCountry } from '@/composables/useCountry'
import { useJob } from '@/composables/useJob'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import NumberField from '@/kit/NumberField.vue'
import TextField from '@/kit/TextField.vue'
import { enclosures, fates } from '../options'
import type { Circuit } from './shape'

/** The board that a sub-main ends in. Where it is, the survey says. */
const props = defineProps<{ index: number }>()
const circuit = defineModel<Circuit>({ required: true })
const { asks, label, height } = useCountry()
const opened = useJob()
const at = (field: string) => `design.circuits.${props.index}.end.${field}`
const place = computed(() => opened.view.job.survey?.places?.find((p) => p.point === circuit.value.point))
const apart = computed(() => place.value?.detached === 'yes')
</script>

<template>
  <FieldGroup :title="place?.name ? `Board at the end: ${place.name}` : 'Board at the end'">
    <ChoiceField
      v-model="circuit.end.fate"
      :name="at('fate')"
      label="The board there"
      empty="new"
      :options="fates('kept', 'replaced')"
      hint="one that was there: its old feed is taken off"
    />
    <NumberField v-model="circuit.end.ways" :name="at('ways')" :label="label('circuit.end.ways')" :decimals="0" />
    <NumberField
      v-model="circuit.end.rating"
      :name="at('rating')"
      :label="label('circuit.end.rating')"
      unit="A"
      :decimals="0"
    />
    <NumberField v-model="circuit.end.breakingKa" :name="at('breakingKa')" label="Its devices break" unit="kA" />
    <NumberField
      v-model="circuit.end.other"
      :name="at('other')"
      label="Loads on it besides charging"
      hint="lights, sockets and the rest; 0: none"
      unit="A"
      zero
      :decimals="0"
    />
    <AnswerField v-model="circuit.end.space" :name="at('space')" label="Room to work in front of it?" />
    <TextField
      v-if="asks('circuit.end.ip') && (place?.outdoors !== 'no' || circuit.end.ip)"
      v-model="circuit.end.ip"
      :name="at('ip')"
      :label="label('circuit.end.ip')"
      hint="outdoors"
      mono
    />
    <ChoiceField
      v-if="asks('circuit.end.enclosure') && (place?.outdoors !== 'no' || circuit.end.enclosure)"
      v-model="circuit.end.enclosure"
      :name="at('enclosure')"
      :label="label('circuit.end.enclosure')"
      :options="enclosures"
    />
    <NumberField
      v-if="asks('circuit.end.handle')"
      v-model="circuit.end.handle"
      :name="at('handle')"
      :label="label('circuit.end.handle')"
      v-bind="height"
    />
    <AnswerField
      v-if="asks('circuit.end.neutralApart')"
      v-model="circuit.end.neutralApart"
      :name="at('neutralApart')"
      :label="label('circuit.end.neutralApart')"
    />
    <template v-if="apart">
      <AnswerField
        v-if="asks('circuit.end.metal')"
        v-model="circuit.end.metal"
        :name="at('metal')"
        :label="label('circuit.end.metal')"
        hint="water pipe, gas, steel in the ground"
      />
      <AnswerField
        v-if="asks('circuit.end.disconnect')"
        v-model="circuit.end.disconnect"
        :name="at('disconnect')"
        :label="label('circuit.end.disconnect')"
        hint="the panel’s main breaker is one"
      />
      <AnswerField
        v-if="asks('circuit.end.electrode')"
        v-model="circuit.end.electrode"
        :name="at('electrode')"
        :label="label('circuit.end.electrode')"
      />
    </template>
  </FieldGroup>
</template>
