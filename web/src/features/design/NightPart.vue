<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import { useJob } from '@/composables/useJob'
import EmptyState from '@/kit/EmptyState.vue'
import NumberField from '@/kit/NumberField.vue'
import PushButton from '@/kit/PushButton.vue'
import type { Circuit } from './shape'

type Mode = Schemas['Outcome']['mode']
/** A cold night, simulated minute by minute, with the charger backing off and without. */
const circuits = defineModel<Circuit[]>({ required: true })
const { page } = useCountry()
const opened = useJob()
const mode = ref<Mode>('managed')
const words: Record<Mode, string> = {
  unmanaged: 'no management',
  managed: 'charger backs off',
  priority: 'priority switch, shower first',
}
const night = useQuery({
  queryKey: computed(() => ['night', opened.id, mode.value, opened.view.revisions]),
  queryFn: () =>
    ask(client.GET('/api/jobs/{job}/night', { params: { path: { job: opened.id }, query: { mode: mode.value } } })),
  placeholderData: keepPreviousData,
})
const managedTo = computed({
  get: () => circuits.value[0]?.managedTo,
  set: (v) => circuits.value.forEach((c) => (c.managedTo = v)),
})
const waysMode: Partial<Record<Schemas['Way']['id'], Mode>> = {
  'as-set': 'unmanaged',
  managed: 'managed',
  priority: 'priority',
}
const band = (b: Schemas['Band'], unit = '') =>
  !b.high ? '–' : unit ? `${b.low}–${b.high} ${unit}` : `${page.value.money.symbol}${b.low}–${b.high}`
const car = (c: Schemas['CarEnd']) =>
  `${c.got.toFixed(1)} of ${c.wanted.toFixed(0)} kWh` + (c.charge ? `, ${(c.charge * 100).toFixed(0)} %` : '')
</script>

<template>
  <section class="card night" aria-label="Load over a night">
    <header class="row">
      <h2>A cold night</h2>
      <PushButton
        kind="plain"
        v-for="(w, m) in words"
        :key="m"
        :class="{ on: m === mode }"
        :aria-pressed="m === mode"
        :data-mode="m"
        @click="mode = m"
      >
        {{ w }}
      </PushButton>
    </header>
    <EmptyState
      v-if="night.data.value?.missing"
      title="The night cannot be simulated yet"
      :text="`It needs: ${night.data.value.missing}.`"
    />
    <template v-else-if="night.data.value">
      <!-- The server draws it from the simulated minutes and escapes every text. -->
      <!-- eslint-disable-next-line vue/no-v-html -->
      <div class="plot" v-html="night.data.value.plot" />
      <p class="row key">
        <span><i class="house" /> house</span> <span><i class="charging" /> charging</span>
        <span class="quiet"
          >{{
            night.data.value.metered
              ? "the house's own day of its peak, from the meter"
              : 'a made-up winter night from the surveyed loads, no forecast'
          }}; 90 % efficiency</span
        >
      </p>
      <table>
        <thead>
          <tr>
            <th>Way</th>
            <th class="right">Set, A</th>
            <th class="right">Peak of limit, A</th>
            <th class="right">Over, min</th>
            <th class="right">Throttled, min</th>
            <th class="right">Pauses</th>
            <th>At departure</th>
            <th class="right">Cost band</th>
            <th class="right">Wait</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="w in night.data.value.ways"
            :key="w.id"
            :class="{ on: waysMode[w.id] === mode }"
            :data-outcome="waysMode[w.id] ?? w.id"
            :data-within="w.within"
          >
            <td>
              {{ w.title }}<span v-if="w.note" class="note">{{ w.note }}</span>
            </td>
            <template v-if="w.outcome.cars?.length">
              <td class="right mono">{{ w.setting }}</td>
              <td class="right mono">{{ w.outcome.peak.toFixed(0) }} of {{ w.limit }}</td>
              <td class="right mono">
                {{ w.outcome.over
                }}<template v-if="w.outcome.houseOver">, {{ w.outcome.houseOver }} house alone</template>
              </td>
              <td class="right mono">{{ w.outcome.throttled }}</td>
              <td class="right mono">{{ w.outcome.pauses }}</td>
              <td>{{ w.outcome.cars.map(car).join('; ') }}</td>
            </template>
            <td v-else colspan="6" class="quiet">not possible here</td>
            <td class="right mono">{{ band(w.cost) }}</td>
            <td class="right mono">{{ band(w.wait, 'weeks') }}</td>
          </tr>
        </tbody>
      </table>
      <p class="quiet small">Cost bands and waits are the firm's own settings, defaults by common practice.</p>
    </template>
    <div class="limit">
      <NumberField
        v-model="managedTo"
        name="design.circuits.0.managedTo"
        label="Load management keeps the whole supply to"
        unit="A"
        :decimals="0"
        hint="empty: none; it must be proved at commissioning"
      />
    </div>
  </section>
</template>

<style scoped>
.night {
  margin-top: 12px;
  overflow-x: auto;
}
.on {
  border-color: var(--copper);
  background: var(--copper-soft);
  color: var(--ink);
}
.note {
  display: block;
  font-size: 12.5px;
  color: var(--slate);
}
.small {
  font-size: 12.5px;
}
td {
  font-size: 13px;
}
td.mono {
  white-space: nowrap;
}
.plot :deep(.house) {
  fill: var(--open);
}
.plot :deep(.charging) {
  fill: var(--copper);
  opacity: 0.45;
}
.plot :deep(.axis),
.plot :deep(.tick) {
  stroke: var(--open);
}
.plot :deep(.limit) {
  stroke: var(--stop);
  stroke-width: 1.6;
  stroke-dasharray: 6 4;
}
.plot :deep(.limit-text) {
  fill: var(--stop);
}
.plot :deep(.end) {
  text-anchor: end;
}
.plot :deep(.mid) {
  text-anchor: middle;
}
.key i {
  display: inline-block;
  width: 12px;
  height: 12px;
  vertical-align: -1px;
}
.key .house {
  background: var(--open);
}
.key .charging {
  background: var(--copper);
  opacity: 0.6;
}
.key {
  font-size: 13px;
  margin-bottom: 6px;
}
.limit {
  max-width: 330px;
  margin-top: 12px;
}
</style>
