<script setup lang="ts">
import { computed } from 'vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import TextField from '@/kit/TextField.vue'
import { mendedParts } from '../options'
import type { Circuit } from './shape'

/** What was wrong with a charger that stays, and what is mended: it decides what is asked and tested. */
const props = defineProps<{ index: number }>()
const circuit = defineModel<Circuit>({ required: true })
const at = (field: string) => `design.circuits.${props.index}.mended.${field}`
const mended = computed(() => circuit.value.mended ?? {})
const mend = (change: Circuit['mended']) => (circuit.value.mended = { ...mended.value, ...change })
</script>

<template>
  <TextField
    :model-value="mended.fault"
    :name="at('fault')"
    label="What is wrong"
    @update:model-value="(fault) => mend({ fault })"
  />
  <TextField
    :model-value="mended.cause"
    :name="at('cause')"
    label="What it comes from"
    @update:model-value="(cause) => mend({ cause })"
  />
  <ChoiceField
    :model-value="mended.part"
    :name="at('part')"
    label="What is mended"
    empty="choose"
    :options="mendedParts"
    @update:model-value="(part) => mend({ part })"
  />
</template>
