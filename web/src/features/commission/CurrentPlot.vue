<script setup lang="ts">
import { computed } from 'vue'

export interface Sight {
  t: number
  state: string
  high: number
  low: number
  duty: number
  offered: number
  contactor: boolean
  amps: number
  house: number
  total: number
  limit: number
  fall: number
  stopped?: string
}

/** The last minute: house and vehicle on top of each other, against the limit that the management keeps. */
const props = defineProps<{ sights: Sight[] }>()
const width = 420
const height = 170
const left = 44
const last = computed(() => props.sights.at(-1))
/** One in ten seconds, for who hears the page. */
const told = computed(() =>
  props.sights.filter((s, i, all) => !i || Math.floor(s.t / 10) > Math.floor(all[i - 1].t / 10)),
)
const top = computed(() => {
  const most = Math.max(40, ...props.sights.map((s) => Math.max(s.total, s.limit)))
  return Math.ceil(most / 20) * 20
})
const x = (s: Sight) => width - 10 - ((last.value!.t - s.t) / 60) * (width - left - 10)
const y = (a: number) => 140 - (a / top.value) * 122
const area = (value: (s: Sight) => number, base: (s: Sight) => number) => {
  const list = props.sights
  if (list.length < 2) return ''
  const up = list.map((s) => `${x(s).toFixed(1)} ${y(value(s)).toFixed(1)}`)
  const down = list.map((s) => `${x(s).toFixed(1)} ${y(base(s)).toFixed(1)}`).reverse()
  return `M${up.join('L')}L${down.join('L')}Z`
}
</script>

<template>
  <svg
    v-if="last"
    class="drawing"
    :viewBox="`0 0 ${width} ${height}`"
    role="img"
    :aria-label="`House ${last.house.toFixed(0)} A, vehicle ${last.amps.toFixed(0)} A`"
  >
    <rect :x="left" y="18" :width="width - left - 10" height="122" class="screen" />
    <g v-for="i in [0, 0.5, 1]" :key="i">
      <line :x1="left" :x2="width - 10" :y1="y(top * i)" :y2="y(top * i)" class="grid" />
      <text :x="left - 6" :y="y(top * i) + 4" text-anchor="end">{{ top * i }} A</text>
    </g>
    <path
      :d="
        area(
          (s) => s.house,
          () => 0,
        )
      "
      class="house"
    />
    <path
      :d="
        area(
          (s) => s.total,
          (s) => s.house,
        )
      "
      class="car"
    />
    <g v-if="last.limit">
      <line :x1="left" :x2="width - 10" :y1="y(last.limit)" :y2="y(last.limit)" class="limit" />
      <text :x="left + 4" :y="y(last.limit) - 4">limit {{ last.limit }} A</text>
    </g>
    <text :x="left" y="158">house below, hatched; vehicle above</text>
    <text :x="width - 10" y="158" text-anchor="end">the last minute</text>
    <defs>
      <pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2="6" stroke="currentColor" stroke-width="2" />
      </pattern>
    </defs>
  </svg>
  <table class="unseen">
    <caption>
      House and vehicle in the last minute
    </caption>
    <thead>
      <tr>
        <th>Seconds ago</th>
        <th>House, A</th>
        <th>Vehicle, A</th>
        <th>Limit, A</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="s in told" :key="s.t">
        <td>{{ Math.round(last!.t - s.t) }}</td>
        <td>{{ s.house.toFixed(0) }}</td>
        <td>{{ s.amps.toFixed(0) }}</td>
        <td>{{ s.limit || 'none' }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 460px;
  color: var(--slate);
}
.screen {
  fill: var(--field);
  stroke: var(--slate);
}
.grid {
  stroke: var(--line);
}
.house {
  fill: url(#hatch);
  stroke: var(--slate);
}
.car {
  fill: var(--copper);
  fill-opacity: 0.55;
  stroke: var(--copper);
}
.limit {
  stroke: var(--stop);
  stroke-width: 2;
  stroke-dasharray: 7 4;
}
text {
  font-size: 11px;
  fill: var(--ink);
}
</style>
