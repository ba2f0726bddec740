<script setup lang="ts">
import { computed, reactive } from 'vue'
import type { Schemas } from '@/api/client'
import ChoiceField from '@/kit/ChoiceField.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'

/** Tells the columns of an instrument's own file apart; kept for the instrument, and from then on read by itself. */
const props = defineProps<{ heading: string[]; points: string[]; tests: Schemas['Test'][]; names: string[] }>()
const emit = defineEmits<{ save: [Schemas['Mapping']] }>()
const wanted = [
  ['test', 'Test'],
  ['value', 'Reading'],
  ['at', 'Time'],
  ['unit', 'Unit'],
  ['instrument', 'Instrument'],
  ['point', 'Point'],
] as const
const likely: Record<string, RegExp> = {
  test: /test|what|function/i,
  value: /value|result|reading|shown/i,
  at: /time|date|when|^at$/i,
  unit: /unit/i,
  instrument: /instr|serial/i,
  point: /point|circuit/i,
}
const guess = (c: string) => props.heading.find((h) => likely[c].test(h))
const columns = reactive<Record<string, string | undefined>>(Object.fromEntries(wanted.map(([c]) => [c, guess(c)])))
const form = reactive({ instrument: '', point: props.points[0], layout: undefined as Schemas['Mapping']['layout'] })
const meant = reactive<Record<string, string | undefined>>({})
const options = computed(() => props.heading.map((h) => ({ value: h, text: h })))
const layouts = [
  { value: 'rfc3339', text: '2026-05-04T11:20:00Z' },
  { value: 'day-first', text: '04/05/2026 11:20, day first' },
  { value: 'month-first', text: '05/04/2026 11:20, month first' },
  { value: 'year-first', text: '2026-05-04 11:20' },
] as const
const known = computed(() => new Set(props.tests.map((t) => t.id)))
const strange = computed(() => props.names.filter((n) => !known.value.has(n)))
function save() {
  const pick = (o: Record<string, string | undefined>, low = false) =>
    Object.fromEntries(
      Object.entries(o)
        .filter(([, v]) => v)
        .map(([k, v]) => [low ? k.toLowerCase() : k, v!]),
    )
  emit('save', { ...form, columns: pick(columns), tests: pick(meant, true), point: columns.point ? '' : form.point })
}
</script>

<template>
  <form class="map" data-mapping @submit.prevent="save">
    <p>The heading of this file is not known. Say once which column is which.</p>
    <div class="fields">
      <TextField
        v-model="form.instrument"
        name="mapping.instrument"
        label="Instrument, serial or inventory number"
        mono
      />
      <ChoiceField
        v-for="[c, label] in wanted"
        :key="c"
        v-model="columns[c]"
        :name="`mapping.columns.${c}`"
        :label="`${label} stands in`"
        :options="options"
        empty="no column"
      />
      <ChoiceField
        v-if="!columns.point"
        v-model="form.point"
        name="mapping.forPoint"
        label="Every line is of point"
        :options="points.map((p) => ({ value: p, text: p }))"
      />
      <ChoiceField
        v-model="form.layout"
        name="mapping.layout"
        label="Times are written"
        :options="[...layouts]"
        empty="2026-05-04T11:20:00Z"
      />
    </div>
    <template v-if="columns.test && strange.length">
      <p>Names of tests that are not known:</p>
      <div class="fields">
        <ChoiceField
          v-for="n in strange"
          :key="n"
          v-model="meant[n]"
          :name="`mapping.tests.${n}`"
          :label="`“${n}” is`"
          :options="tests.map((t) => ({ value: t.id, text: t.title }))"
          empty="left as it is"
        />
      </div>
    </template>
    <PushButton type="submit" :disabled="!form.instrument || !columns.test || !columns.value || !columns.at">
      Keep it for this instrument
    </PushButton>
  </form>
</template>

<style scoped>
.map {
  display: grid;
  gap: 12px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: 10px 14px;
}
.btn {
  justify-self: start;
}
</style>
