<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { terms, useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import BarField from '@/kit/BarField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import NumberField from '@/kit/NumberField.vue'
import TextField from '@/kit/TextField.vue'
import { bonded, bondings, conditions, inlets, signals, upstream } from '../options'
import PhotoAsk from './PhotoAsk.vue'
import SpotFields from './SpotFields.vue'
import UsualPart from './UsualPart.vue'
import type { Survey } from './shape'

/** An easy survey on one page, in the order of the walk; each section has the rest. */
const survey = defineModel<Survey>({ required: true })
const emit = defineEmits<{ kept: [] }>()
const { page, asks, label, word, height } = useCountry()
const systems = terms<NonNullable<Schemas['Supply']['system']>>(page.value.systems)
const supply = computed(() => survey.value.supply)
const board = computed(() => survey.value.board)
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
    if (list.length || !(p.run || p.cord)) return
    list.push(p)
    if (survey.value.places[0]) survey.value.places[0].position ||= p.id
  },
  { deep: true },
)
const second = () => survey.value.sitePlan.positions!.push({ id: 'B' })
</script>

<template>
  <FieldGroup :title="word('supply')">
    <PhotoAsk v-model="survey.photos" kind="meter" @kept="emit('kept')" />
    <BarField v-model="supply.system" name="survey.supply.system" label="System" :options="systems" wide />
    <NumberField
      v-model="supply.rating"
      name="survey.supply.rating"
      :label="label('supply.rating')"
      unit="A"
      :decimals="0"
    />
    <AnswerField v-model="supply.ratingSeen" name="survey.supply.ratingSeen" label="Read off the label itself?" />
    <BarField
      v-model="supply.condition"
      name="survey.supply.condition"
      :label="label('supply.condition')"
      :options="conditions"
    />
    <AnswerField v-model="supply.otherSource" name="survey.supply.otherSource" label="Solar, battery or generator?" />
    <TextField v-model="supply.voltage" name="survey.supply.voltage" :label="label('supply.voltage')" mono />
    <NumberField
      v-if="asks('supply.declaredZe') && supply.system !== 'tt'"
      v-model="supply.declaredZe"
      name="survey.supply.declaredZe"
      :label="label('supply.declaredZe')"
      unit="Ω"
    />
    <NumberField
      v-if="asks('supply.electrodeRa') && supply.system === 'tt'"
      v-model="supply.electrodeRa"
      name="survey.supply.electrodeRa"
      :label="label('supply.electrodeRa')"
      unit="Ω"
    />
    <NumberField
      v-if="asks('supply.faultCurrent')"
      v-model="supply.faultCurrent"
      name="survey.supply.faultCurrent"
      :label="label('supply.faultCurrent')"
      unit="kA"
    />
  </FieldGroup>
  <FieldGroup v-if="asks('bonding')" :title="label('bonding')">
    <NumberField
      v-model="survey.bonding.conductor"
      name="survey.bonding.conductor"
      label="Earthing conductor"
      unit="mm²"
    />
    <NumberField v-model="survey.bonding.size" name="survey.bonding.size" label="Smallest main bond" unit="mm²" />
    <BarField
      v-for="(name, part) in bondings"
      :key="part"
      v-model="survey.bonding[part]"
      :name="`survey.bonding.${part}`"
      :label="name"
      :options="bonded"
      wide
    />
  </FieldGroup>
  <FieldGroup :title="word('board')">
    <PhotoAsk v-model="survey.photos" kind="board-closed" @kept="emit('kept')" />
    <PhotoAsk v-model="survey.photos" kind="label" @kept="emit('kept')" />
    <PhotoAsk v-model="survey.photos" kind="board-open" @kept="emit('kept')" />
    <NumberField
      v-model="board.rating"
      name="survey.board.rating"
      :label="label('board.rating')"
      unit="A"
      :decimals="0"
    />
    <NumberField
      v-model="board.waysFree"
      name="survey.board.waysFree"
      :label="label('board.waysFree')"
      :decimals="0"
      zero
    />
    <AnswerField
      v-if="asks('board.freePair')"
      v-model="board.freePair"
      name="survey.board.freePair"
      :label="label('board.freePair')"
    />
    <NumberField
      v-if="asks('board.circuitsMax')"
      v-model="board.circuitsMax"
      name="survey.board.circuitsMax"
      :label="label('board.circuitsMax')"
      :decimals="0"
    />
    <AnswerField
      v-if="asks('board.workingSpace')"
      v-model="board.workingSpace"
      name="survey.board.workingSpace"
      :label="label('board.workingSpace')"
    />
    <NumberField
      v-if="asks('board.handleHeight')"
      v-model="board.handleHeight"
      name="survey.board.handleHeight"
      :label="label('board.handleHeight')"
      v-bind="height"
    />
    <BarField
      v-if="asks('board.upstreamRcdType')"
      v-model="board.upstreamRcdType"
      name="survey.board.upstreamRcdType"
      :label="label('board.upstreamRcdType')"
      :options="upstream"
      wide
    />
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
    <button v-if="survey.sitePlan.positions!.length === 1" type="button" class="btn plain more" @click="second">
      A second place
    </button>
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
