<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { terms, useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import TextField from '@/kit/TextField.vue'
import { earths, metals } from '../options'

/** The fields of one cable; name is its path in the document. */
const props = defineProps<{ name: string }>()
const cable = defineModel<Schemas['Cable']>({ required: true })
const at = (field: string) => `${props.name}.${field}`
const { page, asks, label } = useCountry()
const families = terms<NonNullable<Schemas['Cable']['family']>>(page.value.families)
</script>

<template>
  <ChoiceField v-model="cable.family" :name="at('family')" label="Cable" :options="families" />
  <TextField v-model="cable.size" :name="at('size')" label="Size, as printed" mono />
  <ChoiceField
    v-if="asks('circuit.cable.earth')"
    v-model="cable.earth"
    :name="at('earth')"
    :label="label('circuit.cable.earth')"
    :options="earths"
  />
  <TextField
    v-if="asks('circuit.cable.earthSize')"
    v-model="cable.earthSize"
    :name="at('earthSize')"
    :label="label('circuit.cable.earthSize')"
    mono
  />
  <ChoiceField
    v-if="asks('circuit.cable.material')"
    v-model="cable.material"
    :name="at('material')"
    :label="label('circuit.cable.material')"
    :options="metals"
  />
  <AnswerField
    v-if="asks('circuit.cable.alMarked') && cable.material === 'aluminium'"
    v-model="cable.alMarked"
    :name="at('alMarked')"
    :label="label('circuit.cable.alMarked')"
  />
  <AnswerField
    v-if="asks('circuit.cable.wetMarked') && cable.family === 'mc'"
    v-model="cable.wetMarked"
    :name="at('wetMarked')"
    :label="label('circuit.cable.wetMarked')"
  />
  <AnswerField
    v-if="asks('circuit.cable.whiteIsHot')"
    v-model="cable.whiteIsHot"
    :name="at('whiteIsHot')"
    :label="label('circuit.cable.whiteIsHot')"
  />
</template>
