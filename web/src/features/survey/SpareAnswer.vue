<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'

/** What is left on the service and on the board, two questions, and what would free more. */
const props = defineProps<{ visit: Schemas['VisitView'] }>()
const { word } = useCountry()
const side = (a: number) => (a < 0 ? `${(-a).toFixed(1)} A too much` : `${a.toFixed(1)} A to spare`)
const free = computed(() => props.visit.frees.slice(0, 3))
</script>

<template>
  <dl class="spare">
    <dt>{{ word('service') }} with charging</dt>
    <dd class="mono">{{ side(visit.serviceSpare) }}</dd>
    <dt>{{ word('board') }} with charging</dt>
    <dd class="mono">{{ side(visit.boardSpare) }}</dd>
    <template v-if="free.length">
      <dt>What would free more</dt>
      <dd>
        <span v-for="f in free" :key="f.name" class="free"
          >the {{ f.name }} not while charging: <b class="mono">{{ f.amps.toFixed(1) }} A</b></span
        >
        <span class="free quiet">a measured demand, load management or a lower setting: see the design</span>
      </dd>
    </template>
  </dl>
</template>

<style scoped>
.spare {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 4px 16px;
  margin: 10px 0 0;
}
dt {
  color: var(--slate);
}
dd {
  margin: 0;
}
.free {
  display: block;
}
@media (max-width: 719px) {
  .spare {
    grid-template-columns: 1fr;
  }
}
</style>
