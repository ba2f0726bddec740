<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import RouteResult from './RouteResult.vue'
import RouteSegment from './RouteSegment.vue'

const { asks, length, sayLength } = useCountry()
const places = defineModel<Schemas['Place'][]>({ required: true })
const at = (i: number, field: string) => `survey.places.${i}.${field}`
/** A new stretch begins with nothing beside it: it is seen, and changed where that is not so. */
const begun = (): Schemas['Segment'] => (asks('route.grouped') ? { grouped: 1 } : { wires: 2 })
const metres = (p: Schemas['Place']) =>
  (p.route ?? []).reduce((sum, s) => sum + (s.length ?? 0) + (s.drop ?? 0) + (s.wall ?? 0), 0)
</script>

<template>
  <FieldGroup v-for="(place, i) in places" :key="place.point" :title="`Route of point ${place.point}`">
    <template #below>
      <div class="route" :data-field="at(i, 'route')">
        <p class="row">
          <b>Cable route, board to point</b>
          <span class="mono">{{ sayLength(metres(place), 1) }}</span>
          <span class="quiet">measure to the same datum on both sides of a wall; drops count</span>
        </p>
        <RouteSegment
          v-for="k in [...(place.route ?? []).keys()]"
          :key="k"
          v-model="place.route![k]"
          :name="at(i, `route.${k}`)"
          :ordinal="k + 1"
          @remove="place.route!.splice(k, 1)"
        />
        <div class="row foot">
          <PushButton kind="plain" @click="place.route!.push(begun())">Add a segment</PushButton>
          <span class="loop">
            <NumberField v-model="place.loop" :name="at(i, 'loop')" label="Service loop" v-bind="length" />
          </span>
        </div>
        <RouteResult v-if="place.route?.length" :point="place.point" />
      </div>
    </template>
  </FieldGroup>
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
