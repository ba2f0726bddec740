<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client, type Schemas, type Verdict } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import { useJob } from '@/composables/useJob'
import EmptyState from '@/kit/EmptyState.vue'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import OptionBar from './OptionBar.vue'
import SideBySide from './SideBySide.vue'
import type { Circuit } from './shape'

/** Every conductor tried on the surveyed route, with a bar for every limit. */
const props = defineProps<{ circuit: Circuit }>()
const cable = defineModel<Schemas['Cable']>({ required: true })
const breaker = defineModel<Schemas['Breaker']>('breaker', { required: true })
const emit = defineEmits<{ chosen: [] }>()
const opened = useJob()
const everything = ref(false)
const device = ref<string>()
const drop = ref<number>()
const query = useQuery({
  queryKey: computed(() => ['options', opened.id, props.circuit.point, drop.value, opened.view.revisions]),
  queryFn: () =>
    ask(
      client.GET('/api/jobs/{job}/points/{point}/options', {
        params: { path: { job: opened.id, point: props.circuit.point }, query: { drop: drop.value ?? 0 } },
      }),
    ),
  placeholderData: keepPreviousData,
  retry: false,
})
type Option = Schemas['Option']
const tried = computed(() => query.data.value?.options ?? [])
const currency = computed(() => query.data.value?.currency ?? '')
const own = computed(() => tried.value.find((o) => o.own)?.device)
const devices = computed(() =>
  [...new Set(tried.value.map((o) => o.device))].map((d) => ({ value: d, text: d === own.value ? `${d}, as set` : d })),
)
const options = computed(() => tried.value.filter((o) => o.device === (device.value ?? own.value)))
const { page, sayLength } = useCountry()
const far = (m: number) => (m ? sayLength(m, 0) : '–')
const same = (o: Option) =>
  o.cable.family === cable.value.family &&
  o.cable.size === cable.value.size &&
  (o.cable.earth ?? 'core') === (cable.value.earth ?? 'core') &&
  (o.cable.material ?? 'copper') === (cable.value.material ?? 'copper')
const kind = (o: Option) => [o.cable.family, o.cable.earth, o.cable.material].join(' ')
const verdict = (o: Option): Verdict =>
  o.fails?.length ? 'stop' : o.missing?.length ? 'open' : o.advice?.length ? 'watch' : 'sound'
const shown = computed(() => {
  if (everything.value || options.value.length <= 8) return options.value
  const meets = options.value.filter((o) => !o.fails?.length)
  // The smallest two of each family that meet, and the largest that fails: what the choice lies between.
  const keep = new Set<Option>()
  for (const f of new Set(options.value.map(kind))) {
    const of = (o: Option) => kind(o) === f
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
  if (!o.own) breaker.value = { ...breaker.value, rating: o.breaker, curve: (o.curve || undefined) as 'B' }
  device.value = undefined
  window.setTimeout(() => emit('chosen'))
}
</script>

<template>
  <section class="card options" aria-label="Conductors tried">
    <header class="row">
      <h2>Conductors tried on this route</h2>
      <span class="grow" />
      <PushButton kind="word" v-if="options.length > 8" @click="everything = !everything">
        {{ everything ? 'only what the choice lies between' : `all ${options.length}` }}
      </PushButton>
    </header>
    <div v-if="!query.isError.value" class="ask">
      <ChoiceField
        v-model="device"
        name="options.device"
        label="With the device"
        :options="devices"
        :empty="own ? `${own}, as set` : 'as set'"
      />
      <NumberField
        v-model="drop"
        name="options.drop"
        label="Drop at most"
        unit="%"
        :scale="0.01"
        :hint="`empty: ${+(page.drop * 100).toFixed(1)} %`"
      />
      <p class="quiet">
        {{ currency ? 'copper first, then the cheapest by your price list' : 'smallest first: no price list yet' }}
      </p>
    </div>
    <SideBySide v-if="!query.isError.value" :options="tried" :currency="currency" />
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
          <th class="right">can go</th>
          <th v-if="currency" class="right">{{ currency }}</th>
          <th><span class="unseen">Verdict</span></th>
          <th><span class="unseen">Choose</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="o in shown" :key="o.label + o.device" :class="{ chosen: same(o) }">
          <td>
            <b>{{ o.label }}</b>
            <span class="note">{{ o.fails?.[0] ?? o.missing?.[0] ?? o.advice?.[0] ?? o.note }}</span>
          </td>
          <td v-for="(c, i) in columns" :key="c.title" class="limit-cell" :data-title="`${c.title}, ${c.unit}`">
            <OptionBar v-if="o.bars[i]" :bar="o.bars[i]" />
          </td>
          <td class="right mono far" :title="o.farBy ? `until the ${o.farBy} is at its limit` : ''">
            {{ far(o.far) }}
          </td>
          <td v-if="currency" class="right mono far" :title="o.unpriced ? `no price of ${o.unpriced}` : ''">
            {{ o.priced ? o.cost.toFixed(0) : '–' }}
          </td>
          <td><VerdictMark :verdict="verdict(o)" /></td>
          <td class="right">
            <b v-if="same(o)" class="is">chosen</b>
            <PushButton kind="plain" v-else-if="o.bars.length" :data-option="o.label" @click="choose(o)">
              Choose
            </PushButton>
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
.far {
  white-space: nowrap;
}
.ask {
  display: grid;
  grid-template-columns: minmax(140px, 200px) 130px 1fr;
  gap: 14px;
  align-items: center;
  margin-top: 8px;
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
  .ask {
    grid-template-columns: 1fr 1fr;
  }
  .ask p {
    grid-column: 1 / -1;
  }
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
