<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { inUnit, useCountry } from '@/composables/useCountry'
import { useJob } from '@/composables/useJob'

/** The route worked out: drawn as a strip with its bends, and what each segment takes and brings. */
const props = defineProps<{ point: string }>()
const { page, word, sayLength } = useCountry()
const opened = useJob()
const query = useQuery({
  queryKey: computed(() => ['route', opened.id, props.point, opened.view.revisions]),
  queryFn: () =>
    ask(
      client.GET('/api/jobs/{job}/points/{point}/route', { params: { path: { job: opened.id, point: props.point } } }),
    ),
  placeholderData: keepPreviousData,
})
const r = computed(() => query.data.value)
const length = (m: number) => sayLength(m, 1)
const area = (mm2: number) => inUnit(page.value.units.section, mm2)
const width = 700
/** Segments along a strip, no narrower than a number needs. */
const strip = computed(() => {
  const list = r.value?.stretches ?? []
  const least = 26
  const free = width - least * list.length
  const sum = list.reduce((s, g) => s + g.cable, 0) || 1
  let x = 0
  return list.map((g, i) => {
    const w = least + (g.cable / sum) * Math.max(free, 0)
    const at = x
    x += w
    return {
      g,
      x: at,
      w,
      bends: Math.round(
        (opened.view.job.survey?.places?.find((p) => p.point === props.point)?.route?.[i]?.bends ?? 0) / 90,
      ),
    }
  })
})
const facts = (g: Schemas['Stretch']) =>
  [
    g.supports ? `${g.supports} ${word('supports')}, ${inUnit(page.value.units.spacing, g.spacing)} apart` : '',
    g.bends ? `${g.bends.toFixed(0)}° since the pull point${g.overBent ? ', over 360°' : ''}` : '',
    g.fill?.size
      ? `${g.fill.chosen ? '' : 'at least '}${g.fill.size}: ${area(g.fill.used)} of ${area(g.fill.allowed)}${g.fill.meets ? '' : ', too full'}`
      : '',
    g.depth ? `${g.depth.value ? length(g.depth.value) : '?'} deep, ${length(g.depth.least)} wanted` : '',
  ].filter(Boolean)
</script>

<template>
  <div v-if="r" class="result" data-route>
    <p v-if="r.problem" class="problem" role="alert">{{ r.problem }}</p>
    <svg :viewBox="`0 0 ${width} 54`" role="img" aria-label="The route as a strip, segment by segment">
      <g v-for="(s, i) in strip" :key="i">
        <rect :x="s.x" y="16" :width="s.w - 2" height="22" class="stretch" :class="{ rules: s.g.rules }" />
        <text :x="s.x + 6" y="31">{{ i + 1 }}</text>
        <path v-for="n in Math.min(s.bends, 8)" :key="n" :d="`M${s.x + 18 + n * 8} 12v-7h5`" class="bend" />
        <text v-if="s.w > 70" :x="s.x + 20" y="31" class="quiet">{{ length(s.g.cable) }}</text>
        <text v-if="s.g.rules" :x="s.x" y="51" class="rule">rules: {{ s.g.capacity.toFixed(1) }} A</text>
      </g>
    </svg>
    <table>
      <thead>
        <tr>
          <th>#</th>
          <th>Runs</th>
          <th class="right">Cable</th>
          <th class="right">Carries</th>
          <th>How</th>
          <th>Takes</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(g, i) in r.stretches" :key="i" :class="{ on: g.rules }">
          <td class="mono">{{ i + 1 }}</td>
          <td>{{ g.method }}</td>
          <td class="right mono">{{ length(g.cable) }}</td>
          <td class="right mono">{{ g.capacity ? `${g.capacity.toFixed(1)} A` : 'open' }}</td>
          <td class="small">{{ g.how }}</td>
          <td class="small">{{ facts(g).join('; ') }}</td>
        </tr>
      </tbody>
    </table>
    <p class="cut">
      Cut <b class="mono">{{ length(r.cut) }}</b>
      <span class="quiet"
        >{{ r.working
        }}<template v-if="r.radius">; bend no tighter than {{ (r.radius * 1000).toFixed(0) }} mm inside</template></span
      >
    </p>
  </div>
</template>

<style scoped>
.result {
  margin-top: 14px;
  overflow-x: auto;
}
.problem {
  color: var(--stop);
  font-weight: 600;
  margin-bottom: 8px;
}
svg {
  width: 100%;
  min-width: 480px;
  display: block;
}
.stretch {
  fill: var(--band);
  stroke: var(--slate);
}
.stretch.rules {
  fill: var(--copper-soft);
  stroke: var(--copper);
  stroke-width: 2;
}
.bend {
  fill: none;
  stroke: var(--ink2);
  stroke-width: 1.6;
}
svg text {
  font:
    12px 'Plex Mono',
    'Plex Sans',
    monospace;
  fill: var(--ink);
}
svg .quiet {
  fill: var(--slate);
}
svg .rule {
  fill: var(--copper);
}
.on {
  background: var(--copper-soft);
}
.small {
  font-size: 12.5px;
}
.cut {
  margin-top: 8px;
}
.cut .quiet {
  margin-left: 8px;
}
</style>
