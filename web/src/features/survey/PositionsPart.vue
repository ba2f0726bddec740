<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, inject, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { ask, client, type Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import { useKeys } from '@/composables/useKeys'
import { useJob } from '@/composables/useJob'
import { undoing } from '@/composables/useUndo'
import ListField from '@/kit/ListField.vue'
import NumberField from '@/kit/NumberField.vue'
import PushButton from '@/kit/PushButton.vue'
import PlaceFields from './PlaceFields.vue'
import PositionTable from './PositionTable.vue'
import SitePlanDrawing from './SitePlanDrawing.vue'
import ThingFields from './ThingFields.vue'
import { extent, kindWords, usePlan, type Kind, type Pick } from './plan'
import type { SitePlan } from './shape'

/** The site plan, the candidate positions side by side, and the choice with its reason. */
defineProps<{ off: boolean }>()
const { length } = useCountry()
const plan = defineModel<SitePlan>({ required: true })
const places = defineModel<Schemas['Place'][]>('places', { required: true })
const emit = defineEmits<{ chosen: [] }>()
const opened = useJob()
const edit = usePlan(plan)
const pick = ref<Pick>()
const point = ref(places.value[0]?.point ?? 'A')
const cord = ref<number>()
const shown = ref('')
const place = computed(() => places.value.find((p) => p.point === point.value))
const looked = computed(() => shown.value || place.value?.position || plan.value.positions[0]?.id || '')
const site = useQuery({
  queryKey: computed(() => ['site', opened.id, point.value, looked.value, cord.value, opened.view.revisions]),
  queryFn: () =>
    ask(
      client.GET('/api/jobs/{job}/points/{point}/site', {
        params: {
          path: { job: opened.id, point: point.value },
          query: { position: looked.value, cord: cord.value ?? 0 },
        },
      }),
    ),
  placeholderData: keepPreviousData,
  enabled: computed(() => places.value.length > 0),
})
const route = useRoute()
const history = inject(undoing)!
/** A finding or an error that names a thing of the plan picks it. */
watch(
  () => String(route.query.field ?? ''),
  (f) => {
    const [, part, kind, index] = f.split('.')
    if (part === 'sitePlan' && kind in kindWords && index) pick.value = { kind: kind as Kind, index: Number(index) }
  },
  { immediate: true },
)
useKeys({ escape: () => (adding.value = undefined) })
const kinds = Object.keys(kindWords) as Kind[]
const chosen = computed(() => places.value.map((p) => p.position ?? '').filter(Boolean))
const adding = ref<Kind>()
/** By hand: the next press on the plan puts it there. By keyboard it comes to the middle, to be walked with the arrow keys. */
function add(kind: Kind, press: MouseEvent) {
  if (press.detail) {
    adding.value = adding.value === kind ? undefined : kind
    pick.value = undefined
    return
  }
  const e = extent(plan.value, [])
  pick.value = edit.add(kind, { x: Math.round((e.left + e.right) / 2), y: Math.round((e.bottom + e.top) / 2) })
}
/** Takes a position for the point, with what is known of it. */
function choose(id: string) {
  const p = place.value
  const q = plan.value.positions.find((x) => x.id === id)
  if (!p || !q) return
  p.position = id
  p.name = q.name || p.name
  p.holderHeight = q.height ?? p.holderHeight
  if (q.cover) p.outdoors = q.cover === 'indoors' ? p.outdoors : 'yes'
  shown.value = id
  window.setTimeout(() => emit('chosen'))
}
</script>

<template>
  <section class="card" data-field="survey.sitePlan">
    <header class="row">
      <h2>Site plan</h2>
      <PushButton kind="plain" :disabled="!history.can.value" @click="history.undo">Undo</PushButton>
      <PushButton kind="plain" :disabled="!history.canRedo.value" @click="history.redo">Redo</PushButton>
      <span class="grow" />
      <a class="btn plain" :href="`api/jobs/${opened.id}/site-plan.svg`" download>Save as SVG</a>
    </header>
    <div class="paper">
      <SitePlanDrawing
        v-model:pick="pick"
        :plan="plan"
        :site="site.data.value"
        :shown="looked"
        :chosen="chosen"
        :edit="edit"
        :adding="adding"
        :off="off"
        @added="adding = undefined"
      />
    </div>
    <p class="row adds">
      <span class="quiet">Add</span>
      <PushButton
        kind="plain"
        v-for="k in kinds"
        :key="k"
        :data-add="k"
        :aria-pressed="adding === k"
        @click="add(k, $event)"
      >
        {{ kindWords[k] }}
      </PushButton>
    </p>
    <p v-if="adding" class="hint" role="status">
      Press where the {{ kindWords[adding] }} is. A wall, a door or a path is pulled from one end to the other. Escape
      puts it away.
    </p>
    <ThingFields v-else-if="pick" v-model="plan" :pick="pick" @remove="(edit.remove(pick), (pick = undefined))" />
    <p v-else class="quiet hint">
      Press a thing to change its measures; drag it, or walk it with the arrow keys: 5 cm a step.
    </p>
  </section>
  <section class="card table" data-field="survey.sitePlan.positions">
    <header class="row">
      <h2>Positions side by side</h2>
      <label v-if="places.length > 1" class="row">
        for point
        <ListField v-model="point" :options="places.map((p) => ({ value: p.point, text: p.point }))" />
      </label>
      <span class="grow" />
      <NumberField
        v-model="cord"
        name="cord"
        label="Try a cord of"
        v-bind="length"
        :hint="site.data.value?.cord ? '' : 'the charger is not chosen yet'"
      />
    </header>
    <PositionTable
      :rows="site.data.value?.rows ?? []"
      :shown="looked"
      :vehicles="opened.view.job.survey?.vehicles ?? []"
      @look="(id) => (shown = id)"
      @choose="choose"
    />
  </section>
  <PlaceFields v-model="places" :positions="plan.positions" />
</template>

<style scoped>
.card {
  margin-top: 12px;
}
.paper {
  margin-top: 10px;
  overflow-x: auto;
}
@media (max-width: 719px) {
  .paper > :deep(svg) {
    min-width: 620px;
  }
}
.adds {
  margin-top: 8px;
  gap: 6px;
}
.hint {
  margin-top: 8px;
}
.table {
  overflow-x: auto;
}
header .frame {
  min-width: 150px;
}
</style>
