<script setup lang="ts">
import { computed, watch } from 'vue'
import AnswerField from '@/kit/AnswerField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import NumberField from '@/kit/NumberField.vue'
import CableFields from './CableFields.vue'
import type { Circuit } from './shape'

/** Where a route's cable changes at a joint box, and the cable beyond it. */
const props = defineProps<{ index: number }>()
const circuit = defineModel<Circuit>({ required: true })
const at = (field: string) => `design.circuits.${props.index}.beyond.${field}`
const changes = computed(() => !!circuit.value.beyond.from)
watch(changes, (is) => !is && (circuit.value.beyond = { cable: {} }))
</script>

<template>
  <FieldGroup title="Joint box on the route" tight>
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
