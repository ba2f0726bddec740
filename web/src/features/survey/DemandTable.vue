<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

/** The demand sum, every line with its factor. */
const props = defineProps<{ demand: Schemas['Result'] }>()
const digits = computed(() => (props.demand.unit === 'VA' ? 0 : 1))
const n = (v: number) => v.toFixed(digits.value)
</script>

<template>
  <details v-if="demand.lines?.length" class="sum">
    <summary>
      Demand by {{ demand.clause }}: <b class="mono">{{ demand.without.toFixed(1) }} A</b> before,
      <b class="mono">{{ demand.total.toFixed(1) }} A</b> with charging
    </summary>
    <table>
      <thead>
        <tr>
          <th>Line</th>
          <th class="right">Rated, {{ demand.unit }}</th>
          <th>Counted as</th>
          <th class="right">Counted, {{ demand.unit }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(l, i) in demand.lines" :key="i">
          <td>{{ l.name }}</td>
          <td class="right mono">{{ n(l.rated) }}</td>
          <td>{{ l.factor }}</td>
          <td class="right mono">{{ n(l.counted) }}</td>
        </tr>
      </tbody>
    </table>
  </details>
</template>

<style scoped>
.sum {
  margin-top: 6px;
}
summary {
  cursor: pointer;
  min-height: 28px;
}
</style>
