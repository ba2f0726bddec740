<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import ChoiceField from '@/kit/ChoiceField.vue'
import AnswerField from '@/kit/AnswerField.vue'
import NumberField from '@/kit/NumberField.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { covers, fixings, positionSignals } from '../options'
import { handles, kindWords, type Pick } from './plan'
import type { SitePlan } from './shape'

/** The measures of one thing of the site plan. */
const props = defineProps<{ pick: Pick }>()
const { asks, label, length, height } = useCountry()
const plan = defineModel<SitePlan>({ required: true })
const emit = defineEmits<{ remove: [] }>()
const single = computed(() => props.pick.kind === 'board' || props.pick.kind === 'meter')
const base = computed(() => `survey.sitePlan.${props.pick.kind}` + (single.value ? '' : `.${props.pick.index}`))
const at = (f: string) => `${base.value}.${f}`
const points = computed(() => handles(plan.value, props.pick))
const names = computed(() => {
  if (single.value) return ['']
  if (props.pick.kind === 'bays') return ['centre']
  return points.value.length > 1 ? ['from', 'to'] : [props.pick.kind === 'gas' ? 'from' : 'at']
})
/** Which end of a line a measure belongs to; a thing with one place has none to tell. */
const lead = (i: number) => (points.value.length > 1 ? `${names.value[i]} ` : '')
const wall = computed(() => (props.pick.kind === 'walls' ? plan.value.walls[props.pick.index] : undefined))
const door = computed(() => (props.pick.kind === 'doors' ? plan.value.doors[props.pick.index] : undefined))
const path = computed(() => (props.pick.kind === 'paths' ? plan.value.paths[props.pick.index] : undefined))
const bay = computed(() => (props.pick.kind === 'bays' ? plan.value.bays[props.pick.index] : undefined))
const obstacle = computed(() => (props.pick.kind === 'obstacles' ? plan.value.obstacles[props.pick.index] : undefined))
const gas = computed(() => (props.pick.kind === 'gas' ? plan.value.gas[props.pick.index] : undefined))
const position = computed(() => (props.pick.kind === 'positions' ? plan.value.positions[props.pick.index] : undefined))
const gasKinds = [
  { value: 'meter' as const, text: 'meter' },
  { value: 'pipe' as const, text: 'pipe' },
]
function setGas(kind?: 'meter' | 'pipe') {
  if (!gas.value || !kind) return
  gas.value.kind = kind
  gas.value.to = kind === 'pipe' ? { x: gas.value.from.x + 1, y: gas.value.from.y } : undefined
}
/** From then on the plan says how far the cord has to go. */
function drawIt(p: Schemas['Position']) {
  p.at = { x: 0, y: 0 }
  p.cord = p.gasClear = undefined
}
</script>

<template>
  <div class="thing" :data-field="base">
    <b>{{ kindWords[pick.kind] }} {{ bay?.id ?? position?.id ?? (single ? '' : pick.index + 1) }}</b>
    <template v-for="(q, i) in points" :key="i">
      <NumberField v-model="q.x" :name="at(names[i] || 'x')" :label="`${lead(i)}X, right`" v-bind="length" zero />
      <NumberField v-model="q.y" :name="at(`${names[i]}.y`)" :label="`${lead(i)}Y, up`" v-bind="length" zero />
    </template>
    <NumberField v-if="wall" v-model="wall.thick" :name="at('thick')" label="Thick" v-bind="length" />
    <TextField v-if="door" v-model="door.name" :name="at('name')" label="Name" />
    <template v-if="path">
      <NumberField v-model="path.width" :name="at('width')" label="Width" v-bind="length" zero />
      <TextField v-model="path.name" :name="at('name')" label="Name" />
    </template>
    <template v-if="bay">
      <NumberField v-model="bay.length" :name="at('length')" label="Length" v-bind="length" zero />
      <NumberField v-model="bay.width" :name="at('width')" label="Width" v-bind="length" zero />
      <NumberField
        v-model="bay.heading"
        :name="at('heading')"
        label="Driven into, 90 is up"
        unit="°"
        :decimals="0"
        zero
      />
    </template>
    <template v-if="obstacle">
      <NumberField v-model="obstacle.width" :name="at('width')" label="Width" v-bind="length" zero />
      <NumberField v-model="obstacle.height" :name="at('height')" label="Depth" v-bind="length" zero />
      <TextField v-model="obstacle.name" :name="at('name')" label="Name" />
    </template>
    <ChoiceField
      v-if="gas"
      :model-value="gas.kind"
      :name="at('kind')"
      label="Gas"
      :options="gasKinds"
      @update:model-value="setGas"
    />
    <template v-if="position">
      <TextField v-model="position.name" :name="at('name')" label="In words" />
      <NumberField v-model="position.height" :name="at('height')" label="Holder height" v-bind="height" />
      <template v-if="!position.at">
        <NumberField v-model="position.cord" :name="at('cord')" label="Cord, on the ground" v-bind="length" />
        <AnswerField
          v-if="asks('position.gasClear')"
          v-model="position.gasClear"
          :name="at('gasClear')"
          :label="label('position.gasClear')"
        />
        <PushButton kind="plain" @click="drawIt(position)">Put it on the plan</PushButton>
      </template>
      <NumberField v-model="position.run" :name="at('run')" label="Cable run, with drops" v-bind="length" />
      <NumberField v-model="position.walls" :name="at('walls')" label="Walls on the way" :decimals="0" zero />
      <ChoiceField v-model="position.cover" :name="at('cover')" label="Weather" :options="covers" />
      <ChoiceField v-model="position.fixing" :name="at('fixing')" label="Fixed to" :options="fixings" />
      <ChoiceField v-model="position.signal" :name="at('signal')" label="Signal" :options="positionSignals" />
      <AnswerField v-model="position.drill" :name="at('drill')" label="May be drilled?" />
      <AnswerField v-model="position.road" :name="at('road')" label="Seen from the road?" />
    </template>
    <PushButton kind="plain" @click="emit('remove')">Remove</PushButton>
  </div>
</template>

<style scoped>
.thing {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(142px, 1fr));
  gap: 10px 14px;
  align-items: end;
  margin-top: 10px;
  padding-top: 10px;
  border-top: 2px solid var(--copper);
}
b {
  align-self: center;
}
b::first-letter {
  text-transform: uppercase;
}
</style>
