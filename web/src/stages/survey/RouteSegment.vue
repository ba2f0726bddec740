<script setup lang="ts">
import type { Schemas } from '@/api/client'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import TextField from '@/kit/TextField.vue'
import { methods, unders } from '../options'
import { computed } from 'vue'

/** One stretch of the route with the same conditions along it. */
const props = defineProps<{ name: string; ordinal: number; us: boolean }>()
const segment = defineModel<Schemas['Segment']>({ required: true })
const unit = computed(() => (props.us ? 'ft' : 'm'))
const scale = computed(() => (props.us ? 0.3048 : 1))
const enclosed = computed(() => ['conduit', 'trunking', 'conduit-in-wall'].includes(segment.value.method ?? ''))
const small = computed(() => (props.us ? { unit: 'in', scale: 0.0254 } : { unit: 'mm', scale: 0.001 }))
const emit = defineEmits<{ remove: [] }>()
</script>

<template>
  <div class="segment">
    <span class="mono ordinal" :title="`segment ${ordinal}`">{{ ordinal }}</span>
    <ChoiceField
      v-model="segment.method"
      class="method"
      :name="`${name}.method`"
      label="Runs"
      :options="us ? methods.us : methods.uk"
    />
    <NumberField
      v-if="segment.method !== 'through-wall'"
      v-model="segment.length"
      :name="`${name}.length`"
      label="Length"
      :unit="unit"
      :scale="scale"
    />
    <NumberField
      v-if="segment.method !== 'through-wall' && segment.method !== 'buried'"
      v-model="segment.drop"
      :name="`${name}.drop`"
      label="Drops, rises"
      :unit="unit"
      :scale="scale"
    />
    <NumberField
      v-if="segment.method === 'through-wall'"
      v-model="segment.wall"
      :name="`${name}.wall`"
      label="Wall, floor"
      :unit="small.unit"
      :scale="small.scale"
      :decimals="1"
    />
    <template v-if="enclosed">
      <NumberField v-model="segment.bends" :name="`${name}.bends`" label="Bends, sum" unit="°" :decimals="0" />
      <AnswerField v-model="segment.pull" :name="`${name}.pull`" label="Pull point at its end?" />
      <TextField v-model="segment.size" :name="`${name}.size`" :label="us ? 'Trade size' : 'Size'" />
    </template>
    <template v-if="segment.method === 'buried'">
      <ChoiceField v-model="segment.under" :name="`${name}.under`" label="Under" :options="unders" />
      <NumberField
        v-model="segment.cover"
        :name="`${name}.cover`"
        label="Depth to its top"
        :unit="small.unit"
        :scale="small.scale"
        :decimals="0"
      />
      <AnswerField v-model="segment.taped" :name="`${name}.taped`" label="Tape above?" />
    </template>
    <NumberField
      v-model="segment.ambient"
      :name="`${name}.ambient`"
      :label="segment.method === 'buried' ? 'Ground' : 'Hottest air'"
      unit="°C"
      :decimals="0"
      zero
    />
    <NumberField
      v-if="!us"
      v-model="segment.grouped"
      :name="`${name}.grouped`"
      label="Circuits together"
      :decimals="0"
    />
    <NumberField
      v-if="!us && (segment.method === 'surface' || segment.method === 'through-wall')"
      v-model="segment.insulated"
      :name="`${name}.insulated`"
      label="In insulation"
      unit="mm"
      :scale="0.001"
      :decimals="0"
    />
    <NumberField
      v-if="!us && segment.method === 'buried'"
      v-model="segment.soil"
      :name="`${name}.soil`"
      label="Soil, K·m/W"
    />
    <template v-if="us">
      <NumberField v-model="segment.wires" :name="`${name}.wires`" label="Live wires" :decimals="0" />
      <AnswerField v-model="segment.wet" :name="`${name}.wet`" label="Wet?" />
    </template>
    <TextField v-model="segment.note" class="where" :name="`${name}.note`" label="Where" />
    <button class="btn plain" type="button" :aria-label="`Remove segment ${ordinal}`" @click="emit('remove')">×</button>
  </div>
</template>

<style scoped>
.segment {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  align-items: end;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
  margin-bottom: 8px;
}
.segment > * {
  flex: 1 1 86px;
}
.segment > .ordinal {
  flex: 0 0 14px;
  padding-bottom: 8px;
  color: var(--slate);
}
.segment > .method {
  flex: 2 1 210px;
}
.segment > .where {
  flex: 3 1 210px;
}
.segment > .btn {
  flex: 0 0 var(--tap);
  padding: 0;
}
@media (max-width: 719px) {
  .segment > .ordinal {
    flex-basis: 100%;
    padding: 0;
  }
  .segment > .method {
    flex-basis: 100%;
  }
}
</style>
