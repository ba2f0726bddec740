<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import AnswerField from '@/kit/AnswerField.vue'
import NumberField from '@/kit/NumberField.vue'
import SheetGroup from '@/kit/SheetGroup.vue'
import TextField from '@/kit/TextField.vue'
import RouteSegment from './RouteSegment.vue'

const props = defineProps<{ index: number; us: boolean; removable: boolean }>()
const place = defineModel<Schemas['Place']>({ required: true })
const emit = defineEmits<{ remove: [] }>()
const at = (field: string) => `survey.places.${props.index}.${field}`
const route = computed(() => place.value.route ?? [])
const length = computed(() => {
  const metres = route.value.reduce((sum, s) => sum + (s.length ?? 0), 0)
  return props.us ? `${(metres / 0.3048).toFixed(1)} ft` : `${metres.toFixed(1)} m`
})
</script>

<template>
  <SheetGroup :title="`Point ${place.point}`">
    <template v-if="removable" #actions>
      <button class="btn plain" type="button" @click="emit('remove')">Remove the point</button>
    </template>
    <TextField v-model="place.name" :name="at('name')" label="Position, in words" />
    <AnswerField v-model="place.outdoors" :name="at('outdoors')" label="Outdoors, or serves a car outside?" />
    <NumberField
      v-model="place.holderHeight"
      :name="at('holderHeight')"
      label="Height of socket or holder"
      :unit="us ? 'in' : 'm'"
      :scale="us ? 0.0254 : 1"
    />
    <TextField v-model="place.why" :name="at('why')" label="Why here" />
    <template #below>
      <div class="route" :data-field="at('route')">
        <p class="row">
          <b>Cable route, board to point</b>
          <span class="mono">{{ length }}</span>
        </p>
        <RouteSegment
          v-for="k in [...route.keys()]"
          :key="k"
          v-model="route[k]"
          :name="at(`route.${k}`)"
          :ordinal="k + 1"
          :us="us"
          @remove="route.splice(k, 1)"
        />
        <button class="btn plain" type="button" @click="route.push({})">Add a segment</button>
      </div>
    </template>
  </SheetGroup>
</template>

<style scoped>
.route {
  margin-top: 14px;
  scroll-margin: 120px;
}
</style>
