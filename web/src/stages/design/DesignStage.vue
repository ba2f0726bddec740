<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import { useSection } from '@/composables/useSection'
import EmptyState from '@/kit/EmptyState.vue'
import PointTabs from '@/kit/PointTabs.vue'
import SaveState from '@/kit/SaveState.vue'
import ArrangementPart from './ArrangementPart.vue'
import CeilingBars from './CeilingBars.vue'
import ChargerPart from './ChargerPart.vue'
import DemandPart from './DemandPart.vue'
import MoneyPart from './MoneyPart.vue'
import JointPart from './JointPart.vue'
import NightPart from './NightPart.vue'
import OneLine from './OneLine.vue'
import OptionsTable from './OptionsTable.vue'
import ProtectionPart from './ProtectionPart.vue'
import SettingPart from './SettingPart.vue'
import { designShape } from './shape'

const opened = useJob()
const route = useRoute()
const { may } = useMe()
const points = computed(() => opened.view.job.survey?.places?.map((p) => p.point) ?? [])
const { draft, state, reason, locked, save, retry, clashes, settle, theirs } = useSection('design', (s) =>
  designShape(s, points.value),
)
const point = ref(String(route.query.point ?? points.value[0] ?? ''))
watch(
  () => route.query.point,
  (p) => p && (point.value = String(p)),
)
const index = computed(() => draft.value.circuits.findIndex((c) => c.point === point.value))
const circuit = computed(() => draft.value.circuits[index.value])
const off = computed(() => locked.value || !may('save the design'))
</script>

<template>
  <header class="row">
    <h1>
      Design<template v-if="point">, point {{ point }}</template>
    </h1>
    <PointTabs v-model="point" :points="points" />
    <span class="grow" />
    <SaveState
      :state="state"
      :reason="reason"
      :clashes="clashes"
      :off="off"
      @retry="retry"
      @settle="settle"
      @theirs="theirs"
    />
  </header>
  <EmptyState v-if="!circuit" title="No charging point yet" text="Add one in the survey." />
  <fieldset v-else :key="point" :disabled="off">
    <CeilingBars :ceilings="opened.view.ceilings[point] ?? []" :setting="circuit.setting" />
    <div class="two">
      <SettingPart v-model="draft.circuits[index]" :index="index" />
      <OneLine :point="point" />
    </div>
    <JointPart v-model="draft.circuits[index]" :index="index" />
    <OptionsTable v-model="circuit.cable" v-model:breaker="circuit.breaker" :circuit="circuit" @chosen="save" />
    <ArrangementPart v-model="draft" :point="point" :index="index" @chosen="save" />
    <NightPart v-model="draft.circuits" />
    <ChargerPart v-model="draft.circuits[index]" :index="index" />
    <ProtectionPart v-model="draft.circuits[index]" :index="index" />
    <DemandPart v-model="draft" />
    <MoneyPart v-model="draft.money" :point="point" />
  </fieldset>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 268px;
  gap: 12px;
  align-items: stretch;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
