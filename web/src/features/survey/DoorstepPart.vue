<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import BarField from '@/kit/BarField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { inlets, signals } from '../options'
import BoardMust from './BoardMust.vue'
import BondingPart from './BondingPart.vue'
import PhotoAsk from './PhotoAsk.vue'
import SpotFields from './SpotFields.vue'
import SupplyMust from './SupplyMust.vue'
import UsualPart from './UsualPart.vue'
import type { Board, Survey } from './shape'

/** An easy survey on one page, in the order of the walk; each section has the rest. */
const survey = defineModel<Survey>({ required: true })
const emit = defineEmits<{ kept: [] }>()
const { asks, word } = useCountry()
const inlet = computed({
  get: () => survey.value.vehicles[0]?.inlet,
  set: (v) => ((survey.value.vehicles[0] ??= {}).inlet = v),
})
// The first place is on the page from the beginning, and in the survey once something is known of it; it is taken.
const first = ref<Schemas['Position']>({ id: 'A' })
const positions = computed(() => {
  const list = survey.value.sitePlan.positions!
  return list.length ? list : [first.value]
})
watch(
  first,
  (p) => {
    const list = survey.value.sitePlan.positions!
    if (list.length || !(p.run || p.cord || p.gasClear)) return
    list.push(p)
    if (survey.value.places[0]) survey.value.places[0].position ||= p.id
  },
  { deep: true },
)
const second = () => positions.value.push({ id: positions.value[0]!.id === 'B' ? 'A' : 'B' })
</script>

<template>
  <FieldGroup :title="word('supply')">
    <PhotoAsk v-model="survey.photos" kind="meter" @kept="emit('kept')" />
    <SupplyMust v-model="survey.supply" />
  </FieldGroup>
  <BondingPart v-if="asks('bonding')" v-model="survey.bonding" />
  <FieldGroup :title="word('board')">
    <PhotoAsk v-model="survey.photos" kind="board-closed" @kept="emit('kept')" />
    <PhotoAsk v-model="survey.photos" kind="label" @kept="emit('kept')" />
    <PhotoAsk v-model="survey.photos" kind="board-open" @kept="emit('kept')" />
    <BoardMust v-model="survey.board as Board" />
  </FieldGroup>
  <FieldGroup title="Where the car stands">
    <PhotoAsk v-model="survey.photos" kind="parking" @kept="emit('kept')" />
    <ChoiceField v-model="inlet" name="survey.vehicles.0.inlet" label="Inlet" :options="inlets" />
    <PhotoAsk v-model="survey.photos" kind="position" @kept="emit('kept')" />
    <PhotoAsk v-model="survey.photos" kind="route" @kept="emit('kept')" />
    <BarField
      v-model="survey.network.signal"
      name="survey.network.signal"
      label="Network at the place"
      :options="signals"
      wide
    />
  </FieldGroup>
  <template v-if="survey.places[0]">
    <SpotFields
      v-for="(p, i) in positions"
      :key="p.id"
      v-model="positions[i]!"
      v-model:place="survey.places[0]"
      :index="i"
      :several="positions.length > 1"
    />
    <PushButton kind="plain" v-if="survey.sitePlan.positions!.length === 1" class="more" @click="second">
      A second place
    </PushButton>
    <TextField
      v-if="positions.length > 1"
      v-model="survey.places[0].why"
      name="survey.places.0.why"
      label="Why this one and not the other"
    />
  </template>
  <UsualPart v-model="survey" />
</template>

<style scoped>
.more {
  margin-top: 12px;
}
</style>
