<script setup lang="ts">
import { computed, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import { useJob } from '@/composables/useJob'
import AnswerField from '@/kit/AnswerField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import NumberField from '@/kit/NumberField.vue'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'

/** One place for the charger, known by two lengths, and what the customer is told of it at once. */
const props = defineProps<{ index: number; several: boolean }>()
const spot = defineModel<Schemas['Position']>({ required: true })
const place = defineModel<Schemas['Place']>('place', { required: true })
const opened = useJob()
const { page, asks, label, length } = useCountry()
const at = (field: string) => `survey.sitePlan.positions.${props.index}.${field}`
const chosen = computed(() => place.value.position === spot.value.id)
const told = computed(() => opened.view.told.find((t) => t.point === place.value.point && t.position === spot.value.id))
const money = (v: number) => `${page.value.money.symbol}${Math.round(v / 10) * 10}`

/** The run to the place that is chosen is the route, until that is taken apart into segments. */
function follow(run?: number, before?: number) {
  const route = (place.value.route ??= [])
  if (!route.length) route.push({})
  if (run && route.length === 1 && (!route[0]!.length || route[0]!.length === before)) route[0]!.length = run
}
watch(
  () => spot.value.run,
  (run, before) => chosen.value && follow(run, before),
)
function choose() {
  place.value.position = spot.value.id
  follow(spot.value.run)
}
</script>

<template>
  <FieldGroup :title="`Place ${spot.id}`">
    <template v-if="several" #actions>
      <PushButton kind="plain" :aria-pressed="chosen" :data-choose="spot.id" @click="choose">
        {{ chosen ? '● taken' : 'Take this one' }}
      </PushButton>
    </template>
    <NumberField
      v-model="spot.run"
      :name="at('run')"
      label="Cable, board to here"
      hint="drops and walls included"
      v-bind="length"
    />
    <NumberField
      v-model="spot.cord"
      :name="at('cord')"
      label="Cord, on the ground"
      hint="from here to under the inlet, round what is in the way"
      v-bind="length"
    />
    <AnswerField
      v-if="asks('position.gasClear')"
      v-model="spot.gasClear"
      :name="at('gasClear')"
      :label="label('position.gasClear')"
    />
    <template v-if="told" #below>
      <p class="told" :data-told="spot.id" :data-verdict="told.verdict">
        <VerdictMark :verdict="told.verdict" />
        <span>
          <b>{{ told.says }}</b>
          <br v-if="told.price" />
          <span v-if="told.price" class="mono">{{ money(told.price.low) }} to {{ money(told.price.high) }}</span>
          <br /><span class="quiet">{{ told.cord }}</span>
        </span>
      </p>
    </template>
  </FieldGroup>
</template>

<style scoped>
.told {
  display: flex;
  gap: 10px;
  border-top: 1px solid var(--line);
  margin: 12px 0 0;
  padding-top: 10px;
}
</style>
