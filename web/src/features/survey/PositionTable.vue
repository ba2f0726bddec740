<script setup lang="ts">
import type { Schemas, Verdict } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import EmptyState from '@/kit/EmptyState.vue'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import { covers, fixings, positionSignals, type Option } from '../options'

/** Candidate positions in one table. */
defineProps<{ rows: Schemas['Row'][]; shown: string; vehicles: Schemas['Vehicle'][] }>()
const emit = defineEmits<{ look: [string]; choose: [string] }>()
const { sayLength } = useCountry()
const length = (m?: number) => (m ? sayLength(m) : '–')
const word = <T,>(list: Option<T>[], v?: T) => list.find((o) => o.value === v)?.text ?? '–'
const money = (v?: number) =>
  v === undefined ? '–' : Math.abs(v) < 0.5 ? '0' : `${v > 0 ? '+' : '−'}${Math.abs(v).toFixed(0)}`
const cords = (r: Schemas['Row']) => r.cords.filter((c) => c.usual)
const other = (r: Schemas['Row'], c: Schemas['Cord']) => r.cords.find((o) => o.vehicle === c.vehicle && !o.usual)
const state = (c?: Schemas['Cord']) =>
  c?.unjudged ? 'not judged' : !c || c.blocked ? 'no way' : length(c.needed) + (c.known && !c.reaches ? ' short' : '')
</script>

<template>
  <EmptyState
    v-if="!rows.length"
    title="No position yet"
    text="Add two or more to the plan: there are usually two or three."
  />
  <table v-else>
    <thead>
      <tr>
        <th>Position</th>
        <th class="right">Run</th>
        <th class="right">Material</th>
        <th>Cord needed, as parked</th>
        <th>Weather</th>
        <th>Road</th>
        <th>Fixing</th>
        <th>Signal</th>
        <th><span class="unseen">Verdict</span></th>
        <th><span class="unseen">Choose</span></th>
      </tr>
    </thead>
    <tbody>
      <template v-for="r in rows" :key="r.position.id">
        <tr
          :class="{ chosen: r.chosen, looked: r.position.id === shown }"
          :data-row="r.position.id"
          @click="emit('look', r.position.id)"
        >
          <td>
            <b>{{ r.position.id }}</b> {{ r.position.name }}
          </td>
          <td class="right mono" data-title="run">{{ length(r.position.run) }}</td>
          <td class="right mono" data-title="material">{{ r.chosen ? '–' : money(r.extra) }}</td>
          <td>
            <span v-for="c in cords(r)" :key="c.vehicle" class="cord" :title="c.working">
              <span class="mono">{{ state(c) }}</span> {{ vehicles[c.vehicle]?.name }}
              <span v-if="other(r, c)" class="quiet">, else {{ state(other(r, c)) }}</span>
            </span>
          </td>
          <td data-title="weather">{{ word(covers, r.position.cover) }}</td>
          <td data-title="road">
            {{ r.position.road === 'yes' ? 'seen' : r.position.road === 'no' ? 'hidden' : '–' }}
          </td>
          <td data-title="fixing">{{ word(fixings, r.position.fixing) }}</td>
          <td data-title="signal">{{ word(positionSignals, r.position.signal) }}</td>
          <td><VerdictMark :verdict="r.verdict as Verdict" /></td>
          <td class="right">
            <b v-if="r.chosen" class="is">chosen</b>
            <PushButton kind="plain" v-else :data-choose="r.position.id" @click.stop="emit('choose', r.position.id)">
              Choose
            </PushButton>
          </td>
        </tr>
        <tr v-if="r.against.length" class="notes" :class="{ chosen: r.chosen }">
          <td colspan="10">{{ r.against.join('; ') }}</td>
        </tr>
      </template>
    </tbody>
  </table>
</template>

<style scoped>
table {
  margin-top: 8px;
  font-size: 13px;
}
td,
th {
  padding: 5px 6px;
}
tbody tr:not(.notes):has(+ .notes) td {
  border-bottom: 0;
}
td:first-child {
  min-width: 116px;
}
.notes td {
  padding-top: 0;
  font-size: 12.5px;
  color: var(--slate);
}
.right {
  white-space: nowrap;
}
.cord {
  display: block;
}
.cord .mono {
  white-space: nowrap;
}
.chosen {
  background: var(--copper-soft);
}
.looked td:first-child {
  box-shadow: inset 3px 0 var(--copper);
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
    grid-template-columns: 1fr 1fr;
    padding: 8px 0;
    border-bottom: 1px solid var(--line);
  }
  td {
    border: 0;
  }
  td:first-child,
  td:nth-child(4),
  td:last-child {
    grid-column: 1 / -1;
  }
  .right {
    text-align: left;
  }
  [data-title]::before {
    content: attr(data-title) ' ';
    font-family: 'Plex Sans', sans-serif;
    color: var(--slate);
  }
  .cord {
    white-space: normal;
  }
}
</style>
