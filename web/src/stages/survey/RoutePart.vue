<script setup lang="ts">
import type { Schemas } from '@/api/client'
import NumberField from '@/kit/NumberField.vue'
import SheetGroup from '@/kit/SheetGroup.vue'
import RouteResult from './RouteResult.vue'
import RouteSegment from './RouteSegment.vue'

const props = defineProps<{ us: boolean }>()
const places = defineModel<Schemas['Place'][]>({ required: true })
const at = (i: number, field: string) => `survey.places.${i}.${field}`
const metres = (p: Schemas['Place']) =>
  (p.route ?? []).reduce((sum, s) => sum + (s.length ?? 0) + (s.drop ?? 0) + (s.wall ?? 0), 0)
const length = (p: Schemas['Place']) =>
  props.us ? `${(metres(p) / 0.3048).toFixed(1)} ft` : `${metres(p).toFixed(1)} m`
</script>

<template>
  <SheetGroup v-for="(place, i) in places" :key="place.point" :title="`Route of point ${place.point}`">
    <template #below>
      <div class="route" :data-field="at(i, 'route')">
        <p class="row">
          <b>Cable route, board to point</b>
          <span class="mono">{{ length(place) }}</span>
          <span class="quiet">measure to the same datum on both sides of a wall; drops count</span>
        </p>
        <RouteSegment
          v-for="k in [...(place.route ?? []).keys()]"
          :key="k"
          v-model="place.route![k]"
          :name="at(i, `route.${k}`)"
          :ordinal="k + 1"
          :us="us"
          @remove="place.route!.splice(k, 1)"
        />
        <div class="row foot">
          <button class="btn plain" type="button" @click="place.route!.push({})">Add a segment</button>
          <span class="loop">
            <NumberField
              v-model="place.loop"
              :name="at(i, 'loop')"
              label="Service loop"
              :unit="us ? 'ft' : 'm'"
              :scale="us ? 0.3048 : 1"
            />
          </span>
        </div>
        <RouteResult v-if="place.route?.length" :point="place.point" :us="us" />
      </div>
    </template>
  </SheetGroup>
</template>

<style scoped>
.route {
  scroll-margin: 120px;
}
.foot {
  align-items: end;
}
.loop {
  width: 150px;
}
</style>
