<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import ListField from '@/kit/ListField.vue'
import NumberField from '@/kit/NumberField.vue'

/** The usual answer to one question of a survey: the country's, another, a figure, or none. */
const props = defineProps<{ usual: Schemas['Usual']; name: string; own: Record<string, unknown> }>()
const emit = defineEmits<{ set: [value: unknown, own: boolean] }>()
const theirs = computed(() => props.usual.field in props.own)
const value = computed(() => (theirs.value ? props.own[props.usual.field] : props.usual.value))
const others = computed(() => props.usual.others ?? [])
const asks = 'asks'
const figure = 'figure'
const options = computed(() => [
  { value: 'country', text: props.usual.says },
  ...others.value.map((o, i) => ({ value: String(i), text: o.says })),
  ...(props.usual.figure ? [{ value: figure, text: 'a figure of ours' }] : []),
  { value: asks, text: `always asked, not taken as: ${props.usual.says}` },
])
const picked = computed({
  get: () => {
    if (!theirs.value) return 'country'
    if (value.value === null) return asks
    const i = others.value.findIndex((o) => o.value === value.value)
    return i >= 0 ? String(i) : figure
  },
  set: (v) => {
    if (v === 'country' || v === undefined) emit('set', undefined, false)
    else if (v === asks) emit('set', null, true)
    else emit('set', v === figure ? props.usual.value : others.value[Number(v)]!.value, true)
  },
})
const ours = computed({
  get: () => value.value as number | undefined,
  set: (v) => v !== undefined && emit('set', v, true),
})
</script>

<template>
  <div class="answer" :data-field="name">
    <ListField v-model="picked" :options="options" :label="usual.says" />
    <NumberField
      v-if="picked === figure && usual.figure"
      v-model="ours"
      :name="`${name}.figure`"
      :label="usual.figure.says.replace('{} ', '')"
      :unit="usual.figure.unit.symbol"
      :scale="usual.figure.unit.size"
    />
  </div>
</template>

<style scoped>
.answer {
  display: grid;
  align-content: start;
  gap: 4px;
}
.answer :deep(select) {
  width: 100%;
}
</style>
