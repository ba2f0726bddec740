<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, client } from '@/api/client'
import { inTurn } from '@/composables/inTurn'
import { useCountry } from '@/composables/useCountry'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import { useSection } from '@/composables/useSection'
import LaterPart from '@/kit/LaterPart.vue'
import SaveState from '@/kit/SaveState.vue'
import SitePart from '../clearances/SitePart.vue'
import BoardPart from './BoardPart.vue'
import BondingPart from './BondingPart.vue'
import DoorstepPart from './DoorstepPart.vue'
import ConsentPart from './ConsentPart.vue'
import LeaveList from './LeaveList.vue'
import LoadsPart from './LoadsPart.vue'
import NetworkPart from './NetworkPart.vue'
import PhotosPart from './PhotosPart.vue'
import PlaceFields from './PlaceFields.vue'
import PositionsPart from './PositionsPart.vue'
import RepairPart from './RepairPart.vue'
import RoutePart from './RoutePart.vue'
import SectionNav from './SectionNav.vue'
import SupplyPart from './SupplyPart.vue'
import VehiclesPart from './VehiclesPart.vue'
import { drawn, sectionOf, surveyShape, type Board, type SectionId, type SitePlan } from './shape'

const opened = useJob()
const route = useRoute()
const router = useRouter()
const { may } = useMe()
const { asks } = useCountry()
const { draft, state, reason, locked, save, retry, clashes, settle, theirs } = useSection('survey', surveyShape)
const off = computed(() => locked.value || !may('save the survey'))
const field = () => String(route.query.field ?? '')
/** Where a charger is only taken away or mended nobody asks how it would be used: there is no page for the doorstep. */
const points = computed(() => Object.values(opened.view.kinds))
const charges = computed(() => points.value.some((k) => !['removal', 'sub-main', 'repair'].includes(k)))
/** Where a sub-main is run nobody parks yet: only where its board goes is asked. */
const laid = computed(() => points.value.length > 0 && points.value.every((k) => k === 'sub-main'))
const doorstep = computed(() => charges.value && !drawn(draft.value))
const part = ref<SectionId | 'doorstep'>(field() ? sectionOf(field()) : doorstep.value ? 'doorstep' : 'supply')
// The press is shown first, then the section's many fields; the way to a field leads to those that stay.
const shown = ref(part.value)
watch(part, () => inTurn(() => (shown.value = part.value)))
watch(field, (f) => f && (shown.value = part.value = sectionOf(f)))
const visit = useQuery({
  queryKey: computed(() => ['visit', opened.id, opened.view.revisions]),
  queryFn: () => ask(client.GET('/api/jobs/{job}/visit', { params: { path: { job: opened.id } } })),
  placeholderData: keepPreviousData,
})
/** A repair of the charger alone is not asked how its circuit was made. */
const mended = computed(
  () =>
    points.value.length > 0 &&
    points.value.every((k) => k === 'repair') &&
    !(visit.data.value?.sections ?? []).some((s) => s.id === 'connectivity'),
)
const go = (f: string) => router.replace({ query: { field: f } })
</script>

<template>
  <header class="row">
    <h1>Survey</h1>
    <span v-if="charges" class="quiet">the board first: everything follows from how far it is from the car</span>
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
  <RepairPart v-if="points.includes('repair')" :off="opened.view.row.sealed || !may('save the design')" />
  <SectionNav v-model="part" :doorstep="doorstep" :sections="visit.data.value?.sections ?? []" />
  <fieldset :disabled="off" data-field="survey.places">
    <DoorstepPart v-if="shown === 'doorstep'" v-model="draft" @kept="save" />
    <template v-else-if="shown === 'supply'">
      <SupplyPart v-model="draft.supply" />
      <LaterPart><BondingPart v-if="asks('bonding') && !mended" v-model="draft.bonding" /></LaterPart>
    </template>
    <BoardPart v-else-if="shown === 'board'" v-model="draft.board as Board" :fits="visit.data.value?.fits ?? []" />
    <LoadsPart
      v-else-if="shown === 'loads'"
      v-model="draft.loads"
      v-model:dwelling="draft.dwelling"
      :visit="visit.data.value"
    />
    <VehiclesPart v-else-if="shown === 'vehicles'" v-model="draft.vehicles" :bays="draft.sitePlan.bays ?? []" />
    <PlaceFields v-else-if="shown === 'positions' && (laid || mended)" v-model="draft.places" :positions="[]" />
    <PositionsPart
      v-else-if="shown === 'positions'"
      v-model="draft.sitePlan as SitePlan"
      v-model:places="draft.places"
      :off="off"
      @chosen="save"
    />
    <RoutePart v-else-if="shown === 'route'" v-model="draft.places" />
    <NetworkPart v-else-if="shown === 'connectivity'" v-model="draft.network" />
    <ConsentPart v-else-if="shown === 'consents'" v-model="draft.consent" />
    <PhotosPart v-else v-model="draft.photos" :required="visit.data.value?.photos ?? []" @kept="save" />
  </fieldset>
  <SitePart v-if="shown === 'consents'" :off="opened.view.row.sealed || !may('save the site')" />
  <LeaveList v-if="visit.data.value" :items="visit.data.value.leave" @go="go" />
</template>
