<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import { useJob } from '@/composables/useJob'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { computed } from 'vue'

/** One group for each charging point: the position that was chosen, and why. */
const props = defineProps<{ positions: Schemas['Position'][] }>()
const { asks, label, height, word } = useCountry()
const opened = useJob()
/** Where a sub-main ends a board goes, and no cord hangs. */
const board = (p: Schemas['Place']) => opened.view.kinds[p.point] === 'sub-main'
const places = defineModel<Schemas['Place'][]>({ required: true })
const at = (i: number, field: string) => `survey.places.${i}.${field}`
const options = computed(() => props.positions.map((p) => ({ value: p.id, text: `${p.id} ${p.name ?? ''}` })))
function add() {
  const ids = places.value.map((p) => p.point)
  const id = 'ABCDEFGHIJKL'.split('').find((c) => !ids.includes(c))
  if (id) places.value.push({ point: id, route: [] })
}
</script>

<template>
  <FieldGroup v-for="(place, i) in places" :key="place.point" :title="`Point ${place.point}`">
    <template v-if="places.length > 1" #actions>
      <PushButton kind="plain" @click="places.splice(i, 1)">Remove the point</PushButton>
    </template>
    <ChoiceField
      v-if="positions.length"
      v-model="place.position"
      :name="at(i, 'position')"
      label="Position chosen"
      :options="options"
    />
    <TextField
      v-model="place.name"
      :name="at(i, 'name')"
      :label="board(place) ? 'Where the board goes' : 'Position, in words'"
    />
    <AnswerField
      v-model="place.outdoors"
      :name="at(i, 'outdoors')"
      :label="board(place) ? 'Outdoors?' : 'Outdoors, or serves a car outside?'"
    />
    <AnswerField
      v-if="asks('place.detached') || board(place)"
      v-model="place.detached"
      :name="at(i, 'detached')"
      :label="asks('place.detached') ? label('place.detached') : 'In a building of its own?'"
      :hint="`apart from the ${word('board').toLowerCase()}’s`"
    />
    <AnswerField
      v-if="place.detached === 'yes'"
      v-model="place.otherSupply"
      :name="at(i, 'otherSupply')"
      label="Has it a circuit or feeder already?"
    />
    <NumberField
      v-if="!board(place)"
      v-model="place.holderHeight"
      :name="at(i, 'holderHeight')"
      label="Height of socket or holder"
      v-bind="height"
    />
    <TextField v-model="place.why" :name="at(i, 'why')" label="Why here and not elsewhere" wide />
  </FieldGroup>
  <PushButton v-if="!places.some(board)" kind="plain" class="more" @click="add">Another charging point</PushButton>
</template>

<style scoped>
.more {
  margin-top: 12px;
}
</style>
