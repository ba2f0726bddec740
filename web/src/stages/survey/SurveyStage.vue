<script setup lang="ts">
import { computed } from 'vue'
import { useDesk } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import { useSheet } from '@/composables/useSheet'
import SheetState from '@/kit/SheetState.vue'
import BoardPart from './BoardPart.vue'
import LoadsPart from './LoadsPart.vue'
import PlacePart from './PlacePart.vue'
import SupplyPart from './SupplyPart.vue'
import VehiclesPart from './VehiclesPart.vue'
import { surveyShape } from './shape'

const desk = useDesk()
const { may } = useMe()
const { draft, state, reason, locked, retry, mine, theirs } = useSheet('survey', surveyShape)
const off = computed(() => locked.value || !may('save the survey'))
function addPoint() {
  const ids = draft.value.places.map((p) => p.point)
  const id = 'ABCDEFGHIJKL'.split('').find((c) => !ids.includes(c))
  if (id) draft.value.places.push({ point: id, route: [] })
}
</script>

<template>
  <header class="row">
    <h1>Survey</h1>
    <span class="quiet">the board first: everything follows from how far it is from the car</span>
    <span class="grow" />
    <SheetState :state="state" :reason="reason" :off="off" @retry="retry" @mine="mine" @theirs="theirs" />
  </header>
  <fieldset :disabled="off" data-field="survey.places">
    <SupplyPart v-model="draft.supply" :us="desk.us" />
    <BoardPart v-model="draft.board" :us="desk.us" />
    <LoadsPart v-model="draft.loads" v-model:dwelling="draft.dwelling" :us="desk.us" />
    <VehiclesPart v-model="draft.vehicles" />
    <PlacePart
      v-for="(p, i) in draft.places"
      :key="p.point"
      v-model="draft.places[i]"
      :index="i"
      :us="desk.us"
      :removable="draft.places.length > 1"
      @remove="draft.places.splice(i, 1)"
    />
    <button class="btn plain more" type="button" @click="addPoint">Another charging point</button>
  </fieldset>
</template>

<style scoped>
.more {
  margin-top: 12px;
}
</style>
