<script setup lang="ts">
import words from '@/api/words.json'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import NumberField from '@/kit/NumberField.vue'
import type { Design } from './shape'

/** Earthing and main bonding that comes with the work; the survey keeps what was found. */
const design = defineModel<Design>({ required: true })
const runs = words.bondRun as { value: NonNullable<Design['bonds']['run']>; text: string }[]
</script>

<template>
  <FieldGroup id="design.bonds" title="Earthing and bonding with this work">
    <ChoiceField
      v-model="design.bonds.run"
      name="design.bonds.run"
      label="Main bonding is run"
      empty="not, what was found stays"
      :options="runs"
    />
    <NumberField v-model="design.bonds.size" name="design.bonds.size" label="Its size" unit="mm²" :decimals="0" />
    <NumberField v-model="design.bonds.length" name="design.bonds.length" label="Its length in all" unit="m" />
    <NumberField
      v-model="design.bonds.conductor"
      name="design.bonds.conductor"
      label="New earthing conductor"
      unit="mm²"
      :decimals="0"
      hint="empty: the one that was found stays"
    />
  </FieldGroup>
</template>
