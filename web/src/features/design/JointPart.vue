<script setup lang="ts">
import { computed, watch } from 'vue'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import NumberField from '@/kit/NumberField.vue'
import { fates } from '../options'
import CableFields from './CableFields.vue'
import type { Circuit } from './shape'

/** Where a route's cable changes at a joint box, and the cable beyond it: of a circuit that was there it may be new. */
const props = defineProps<{ index: number }>()
const circuit = defineModel<Circuit>({ required: true })
const at = (field: string) => `design.circuits.${props.index}.beyond.${field}`
const there = computed(() => circuit.value.existing === 'yes')
const extended = computed(() => circuit.value.beyond.cable.fate === 'new')
const changes = computed(() => !!circuit.value.beyond.from || extended.value)
watch(changes, (is) => !is && (circuit.value.beyond = { cable: {} }))
</script>

<template>
  <FieldGroup title="Joint box on the route" tight>
    <ChoiceField
      v-if="there"
      v-model="circuit.beyond.cable.fate"
      :name="at('cable.fate')"
      label="Cable beyond the box"
      empty="was there"
      :options="fates('new')"
    />
    <NumberField
      v-model="circuit.beyond.from"
      :name="at('from')"
      label="Cable changes at segment"
      :decimals="0"
      hint="a box where it begins; empty: none"
    />
    <template v-if="changes">
      <AnswerField v-model="circuit.beyond.accessible" :name="at('accessible')" label="Box can be reached?" />
      <AnswerField
        v-model="circuit.beyond.suited"
        :name="at('suited')"
        label="Box suits place and conductors?"
        hint="dust, water; number and size"
      />
      <CableFields v-model="circuit.beyond.cable" :name="at('cable')" />
    </template>
  </FieldGroup>
</template>
