<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

/** What the maker's sheet says about setting this charger: the switches drawn as they stand, or the way through the app. */
const props = defineProps<{ sheet: Schemas['SettingGuide'] }>()
const words = computed(() => props.sheet.positions.map((p) => `${p.name} ${p.on ? 'on' : 'off'}`).join(', '))
const x = (i: number) => 14 + i * 40
</script>

<template>
  <div class="maker" data-maker>
    <p v-if="sheet.problem" class="problem" role="alert">{{ sheet.wanted }} A: {{ sheet.problem }}</p>
    <template v-else-if="sheet.positions.length">
      <p>
        <b>Switches for {{ sheet.wanted }} A</b>
      </p>
      <svg
        class="drawing switches"
        :viewBox="`0 0 ${14 + sheet.positions.length * 40} 92`"
        :style="{ maxWidth: `${60 + sheet.positions.length * 60}px` }"
        role="img"
        :aria-label="words"
      >
        <rect x="1" y="1" :width="12 + sheet.positions.length * 40" height="90" rx="3" class="body" />
        <g v-for="(p, i) in sheet.positions" :key="p.name" :data-switch="`${p.name} ${p.on ? 'on' : 'off'}`">
          <rect :x="x(i)" y="10" width="26" height="46" class="slot" />
          <rect :x="x(i) + 3" :y="p.on ? 13 : 34" width="20" height="19" class="lever" :class="{ on: p.on }" />
          <text :x="x(i) + 13" y="70" text-anchor="middle">{{ p.name }}</text>
          <text :x="x(i) + 13" y="85" text-anchor="middle" class="quiet">{{ p.on ? 'on' : 'off' }}</text>
        </g>
      </svg>
    </template>
    <p v-else-if="sheet.menu">
      <b>In the app for {{ sheet.wanted }} A:</b> {{ sheet.menu }}
    </p>
    <p class="quiet">
      Most on this breaker {{ sheet.limit }} A ({{ sheet.how }}). Terminals {{ sheet.torque }} {{ sheet.torqueUnit }},
      strip {{ sheet.strip }} mm, entries {{ sheet.entries.join(', ') }}; firmware {{ sheet.firmware }}.
      {{ sheet.source }}.
    </p>
  </div>
</template>

<style scoped>
.maker {
  margin-bottom: 8px;
}
.problem {
  color: var(--stop);
  font-weight: 600;
}
.switches {
  margin: 6px 0;
}
.body {
  fill: var(--band);
  stroke: var(--ink);
  stroke-width: 1.4;
}
.slot {
  fill: var(--field);
  stroke: var(--slate);
}
.lever {
  fill: var(--slate);
}
.lever.on {
  fill: var(--copper);
}
.quiet {
  font-size: 12.5px;
}
</style>
