<script setup lang="ts">
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import NumberField from '@/kit/NumberField.vue'
import TextField from '@/kit/TextField.vue'
import { rcdTypes } from '../options'
import type { Design } from './shape'

/** What takes the place of the residual device that the survey found upstream; left out, that one stays. */
const design = defineModel<Design>({ required: true })
const { found } = defineProps<{ found?: string }>()
</script>

<template>
  <FieldGroup title="Residual device upstream">
    <ChoiceField
      v-model="design.ahead.type"
      name="design.ahead.type"
      :label="`Type ${found ?? '?'} was found`"
      empty="it stays"
      :options="rcdTypes.map((t) => ({ ...t, text: `replaced by type ${t.value}` }))"
    />
    <template v-if="design.ahead.type">
      <NumberField v-model="design.ahead.rating" name="design.ahead.rating" label="Rated" unit="A" :decimals="0" />
      <NumberField v-model="design.ahead.tripMa" name="design.ahead.tripMa" label="Rated residual current" unit="mA" />
      <AnswerField v-model="design.ahead.delayed" name="design.ahead.delayed" label="Delayed (S)?" />
      <TextField
        v-model="design.ahead.feeds"
        name="design.ahead.feeds"
        label="What else it feeds"
        hint="tested again with it"
        wide
      />
    </template>
  </FieldGroup>
</template>
