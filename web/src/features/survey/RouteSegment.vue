<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { terms, useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { schedules, unders } from '../options'
import { computed } from 'vue'

/** One stretch of the route with the same conditions along it. */
defineProps<{ name: string; ordinal: number }>()
const segment = defineModel<Schemas['Segment']>({ required: true })
const { page, asks, label, length, size, temperature } = useCountry()
const methods = terms<NonNullable<Schemas['Segment']['method']>>(page.value.methods)
const clipped = computed(() => ['surface', 'through-wall'].includes(segment.value.method ?? ''))
const enclosed = computed(() => ['conduit', 'trunking', 'conduit-in-wall'].includes(segment.value.method ?? ''))
const emit = defineEmits<{ remove: [] }>()
</script>

<template>
  <div class="segment">
    <span class="mono ordinal" :title="`segment ${ordinal}`">{{ ordinal }}</span>
    <ChoiceField v-model="segment.method" class="method" :name="`${name}.method`" label="Runs" :options="methods" />
    <NumberField
      v-if="segment.method !== 'through-wall'"
      v-model="segment.length"
      :name="`${name}.length`"
      label="Length"
      v-bind="length"
    />
    <NumberField
      v-if="segment.method !== 'through-wall' && segment.method !== 'buried'"
      v-model="segment.drop"
      :name="`${name}.drop`"
      label="Drops, rises"
      v-bind="length"
    />
    <NumberField
      v-if="segment.method === 'through-wall'"
      v-model="segment.wall"
      :name="`${name}.wall`"
      label="Wall, floor"
      v-bind="size"
      :decimals="1"
    />
    <template v-if="enclosed">
      <NumberField v-model="segment.bends" :name="`${name}.bends`" label="Bends, sum" unit="°" :decimals="0" />
      <AnswerField v-model="segment.pull" :name="`${name}.pull`" label="Pull point at its end?" />
      <TextField v-model="segment.size" :name="`${name}.size`" :label="label('route.size')" />
      <ChoiceField
        v-if="asks('route.schedule') && segment.method === 'conduit'"
        v-model="segment.schedule"
        :name="`${name}.schedule`"
        :label="label('route.schedule')"
        :options="schedules"
      />
    </template>
    <template v-if="segment.method === 'buried'">
      <ChoiceField v-model="segment.under" :name="`${name}.under`" label="Under" :options="unders" />
      <NumberField
        v-model="segment.cover"
        :name="`${name}.cover`"
        label="Depth to its top"
        v-bind="size"
        :decimals="0"
      />
      <AnswerField v-model="segment.taped" :name="`${name}.taped`" label="Tape above?" />
      <template v-if="asks('route.riser')">
        <AnswerField
          v-model="segment.riser"
          :name="`${name}.riser`"
          :label="label('route.riser')"
          hint="18 in below to 8 ft above"
        />
        <AnswerField
          v-model="segment.slack"
          :name="`${name}.slack`"
          :label="label('route.slack')"
          hint="slack, expansion fitting"
        />
      </template>
    </template>
    <NumberField
      v-model="segment.ambient"
      :name="`${name}.ambient`"
      :label="segment.method === 'buried' ? 'Ground' : 'Hottest air'"
      v-bind="temperature"
      :decimals="0"
      zero
    />
    <NumberField
      v-if="asks('route.grouped')"
      v-model="segment.grouped"
      :name="`${name}.grouped`"
      :label="label('route.grouped')"
      :decimals="0"
    />
    <NumberField
      v-if="asks('route.insulated') && clipped"
      v-model="segment.insulated"
      :name="`${name}.insulated`"
      :label="label('route.insulated')"
      v-bind="size"
      :decimals="0"
    />
    <NumberField
      v-if="asks('route.soil') && segment.method === 'buried'"
      v-model="segment.soil"
      :name="`${name}.soil`"
      :label="label('route.soil')"
    />
    <AnswerField
      v-if="asks('route.soil') && segment.method === 'buried'"
      v-model="segment.ducted"
      :name="`${name}.ducted`"
      label="In a duct?"
    />
    <AnswerField
      v-if="asks('route.grouped') && segment.method === 'surface' && (segment.grouped ?? 0) > 1"
      v-model="segment.oneLayer"
      :name="`${name}.oneLayer`"
      label="Side by side?"
    />
    <NumberField
      v-if="asks('route.wires')"
      v-model="segment.wires"
      :name="`${name}.wires`"
      :label="label('route.wires')"
      :decimals="0"
    />
    <AnswerField v-if="asks('route.wet')" v-model="segment.wet" :name="`${name}.wet`" :label="label('route.wet')" />
    <AnswerField
      v-if="asks('route.roof') && segment.wet === 'yes' && !['buried', 'through-wall'].includes(segment.method ?? '')"
      v-model="segment.roof"
      :name="`${name}.roof`"
      :label="label('route.roof')"
    />
    <AnswerField
      v-if="asks('route.edges') && segment.method === 'stud-wall'"
      v-model="segment.edges"
      :name="`${name}.edges`"
      :label="label('route.edges')"
      hint="cable: 1¼ in, or steel"
    />
    <TextField v-model="segment.note" class="where" :name="`${name}.note`" label="Where" />
    <PushButton kind="plain" :aria-label="`Remove segment ${ordinal}`" @click="emit('remove')">×</PushButton>
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
