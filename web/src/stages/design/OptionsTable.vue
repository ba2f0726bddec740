<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client, type Schemas, type Verdict } from '@/api/client'
import { useDesk } from '@/composables/useJob'
import EmptyState from '@/kit/EmptyState.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import OptionBar from './OptionBar.vue'
import type { Circuit } from './shape'

/** Every conductor tried on the surveyed route, with a bar for every limit. */
const props = defineProps<{ circuit: Circuit; us: boolean }>()
const cable = defineModel<Schemas['Cable']>({ required: true })
const emit = defineEmits<{ chosen: [] }>()
const desk = useDesk()
const everything = ref(false)
const query = useQuery({
  queryKey: computed(() => ['options', desk.id, props.circuit.point, desk.view.revisions]),
  queryFn: () =>
    ask(
      client.GET('/api/jobs/{job}/points/{point}/options', {
        params: { path: { job: desk.id, point: props.circuit.point } },
      }),
    ),
  placeholderData: keepPreviousData,
  retry: false,
})
type Option = Schemas['Option']
const options = computed(() => query.data.value?.options ?? [])
const same = (o: Option) =>
  o.cable.family === cable.value.family &&
  o.cable.size === cable.value.size &&
  (o.cable.earth ?? 'core') === (cable.value.earth ?? 'core')
const verdict = (o: Option): Verdict =>
  o.fails?.length ? 'stop' : o.missing?.length ? 'open' : o.advice?.length ? 'watch' : 'sound'
const shown = computed(() => {
  if (everything.value || options.value.length <= 8) return options.value
  const meets = options.value.filter((o) => !o.fails?.length)
  // The smallest two of each family that meet, and the largest that fails: what the choice lies between.
  const keep = new Set<Option>()
  for (const f of new Set(options.value.map((o) => `${o.cable.family}${o.cable.earth ?? ''}`))) {
    const of = (o: Option) => `${o.cable.family}${o.cable.earth ?? ''}` === f
    meets
      .filter(of)
      .slice(0, 2)
      .forEach((o) => keep.add(o))
    const failing = options.value.filter((o) => of(o) && o.fails?.length).pop()
    if (failing) keep.add(failing)
  }
  return options.value.filter((o) => keep.has(o) || same(o))
})
const columns = computed(() => {
  const longest = options.value.reduce<Option | undefined>(
    (a, b) => (!a || b.bars.length > a.bars.length ? b : a),
    undefined,
  )
  return longest?.bars ?? []
})
function choose(o: Option) {
  cable.value = { ...o.cable, whiteIsHot: cable.value.whiteIsHot }
  window.setTimeout(() => emit('chosen'))
}
</script>

<template>
  <section class="card options" aria-label="Conductors tried">
    <header class="row">
      <h3>Conductors tried on this route</h3>
      <span class="grow" />
      <button v-if="options.length > 8" class="link" type="button" @click="everything = !everything">
        {{ everything ? 'only what the choice lies between' : `all ${options.length}` }}
      </button>
    </header>
    <EmptyState v-if="query.isError.value" title="Nothing can be tried yet" :text="query.error.value?.message" />
    <table v-else>
      <thead>
        <tr>
          <th>Conductor</th>
          <th v-for="c in columns" :key="c.title">
            {{ c.title }}, {{ c.unit }}<br /><span class="limit"
              >{{ c.least ? 'at least' : 'at most' }} {{ +c.limit.toFixed(2) }}</span
            >
          </th>
          <th><span class="sr">Verdict</span></th>
          <th><span class="sr">Choose</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="o in shown" :key="o.label" :class="{ chosen: same(o) }">
          <td>
            <b>{{ o.label }}</b>
            <span class="note">{{ o.fails?.[0] ?? o.missing?.[0] ?? o.advice?.[0] ?? o.note }}</span>
          </td>
          <td v-for="(c, i) in columns" :key="c.title" class="limit-cell" :data-title="`${c.title}, ${c.unit}`">
            <OptionBar v-if="o.bars[i]" :bar="o.bars[i]" />
          </td>
          <td><VerdictMark :verdict="verdict(o)" /></td>
          <td class="right">
            <b v-if="same(o)" class="is">chosen</b>
            <button v-else class="btn plain" type="button" :data-option="o.label" @click="choose(o)">Choose</button>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.options {
  margin-top: 12px;
  overflow-x: auto;
}
h3 {
  font-size: 15px;
  font-weight: 600;
  margin: 0;
}
.link {
  font: inherit;
  color: var(--copper);
  background: none;
  border: 0;
  cursor: pointer;
}
.limit {
  font-weight: 400;
}
.note {
  display: block;
  font-size: 12.5px;
  color: var(--slate);
}
.chosen {
  background: var(--copper-soft);
}
.is {
  font-size: 13px;
  color: var(--ink2);
}
@media (max-width: 719px) {
  thead {
    display: none;
  }
  tr {
    display: grid;
    grid-template-columns: repeat(4, 1fr);
    padding: 8px 0;
    border-bottom: 1px solid var(--line);
  }
  td {
    border: 0;
  }
  td:first-child {
    grid-column: 1 / 4;
    grid-row: 1;
  }
  td:nth-last-child(2) {
    grid-column: 4;
    grid-row: 1;
    justify-self: end;
  }
  td:last-child {
    grid-column: 1 / -1;
  }
  .limit-cell {
    grid-column: span 2;
  }
  .limit-cell::before {
    content: attr(data-title);
    font-size: 12px;
    color: var(--slate);
  }
}
</style>
