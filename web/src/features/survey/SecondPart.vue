<script setup lang="ts">
import type { Schemas } from '@/api/client'
import words from '@/api/words.json'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import TextField from '@/kit/TextField.vue'

/** A second source: what it does when the grid is out, and of one that carries circuits then, what and how. */
type Second = Schemas['Second']
const second = defineModel<Second>({ required: true })
const at = (field: string) => `survey.supply.second.${field}`
const sources = words.source as { value: NonNullable<Second['kind']>; text: string }[]
/** Of one that carries nothing then, nothing else is kept. */
function setKind(kind?: Second['kind']) {
  const { isolator } = second.value
  second.value = kind === 'backs-up' ? { ...second.value, kind } : { kind, isolator }
}
</script>

<template>
  <ChoiceField
    :model-value="second.kind"
    :name="at('kind')"
    label="Second source, when the grid is out"
    :options="sources"
    @update:model-value="setKind"
  />
  <TextField v-model="second.isolator" :name="at('isolator')" label="Where it is switched off and locked" />
  <template v-if="second.kind === 'backs-up'">
    <NumberField v-model="second.rating" :name="at('rating')" label="It gives, for hours" unit="A" hint="per phase" />
    <NumberField
      v-model="second.other"
      :name="at('other')"
      label="It carries besides, at most"
      unit="A"
      hint="per phase, without charging"
    />
    <AnswerField
      v-model="second.earthed"
      :name="at('earthed')"
      label="Its neutral joined to an earth of its own then?"
    />
  </template>
</template>
