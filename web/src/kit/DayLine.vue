<script setup lang="ts">
import { ref, watch } from 'vue'
import { dayFigures, dayText, readDay } from './dates'
import LineField from './LineField.vue'

/** A day, written as the country of the job writes it; the model is 2026-05-04, '' for none. `wrong` says what is no day. */
const model = defineModel<string>()
const wrong = defineModel<string>('wrong')
const show = (day?: string) => (day && readDay(day) ? dayText(day) : (day ?? ''))
const typed = ref(show(model.value))
watch(model, (day) => {
  if (readDay(typed.value) !== day) typed.value = show(day)
})
function leave() {
  const words = typed.value.trim()
  const day = readDay(words)
  if (words && !day) {
    wrong.value = `“${words}” is not a day: write it as ${dayFigures('2026-12-31')}`
    return
  }
  model.value = day
  typed.value = show(day)
}
</script>

<template>
  <LineField
    v-model="typed"
    :placeholder="dayFigures('yyyy-mm-dd')"
    @update:model-value="wrong = ''"
    @change="leave"
    @blur="leave"
  />
</template>
