<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import BarField from '@/kit/BarField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import NumberField from '@/kit/NumberField.vue'
import { bonded, bondings } from '../options'

/** The earthing conductor, and what of the building's metal is bonded. */
const bonding = defineModel<Schemas['Bonding']>({ required: true })
const { label } = useCountry()
const at = (field: string) => `survey.bonding.${field}`
</script>

<template>
  <FieldGroup id="survey.bonding" :title="label('bonding')">
    <NumberField v-model="bonding.conductor" :name="at('conductor')" label="Earthing conductor" unit="mm²" />
    <NumberField v-model="bonding.size" :name="at('size')" label="Smallest main bond" unit="mm²" />
    <BarField
      v-for="(name, part) in bondings"
      :key="part"
      v-model="bonding[part]"
      :name="at(part)"
      :label="name"
      :options="bonded"
      wide
    />
  </FieldGroup>
</template>
