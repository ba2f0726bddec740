<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'

/** The smallest conductor that meets, one size up, and the one chosen, in parallel. */
const props = defineProps<{ options: Schemas['Option'][]; currency: string }>()
const columns = computed(() =>
  [
    { title: 'Smallest that meets', o: props.options.find((o) => o.smallest) },
    { title: 'One size up', o: props.options.find((o) => o.oneUp) },
    { title: 'Chosen', o: props.options.find((o) => o.chosen) },
  ].filter((c) => c.o),
)
const { sayLength } = useCountry()
const far = (m: number) => sayLength(m, 0)
const figure = (v: number) => (v >= 10 ? v.toFixed(1) : v.toFixed(2))
</script>

<template>
  <div v-if="columns.length" class="side">
    <div v-for="c in columns" :key="c.title" :class="{ on: c.o!.chosen }">
      <p class="quiet">{{ c.title }}</p>
      <b>{{ c.o!.label }}</b>
      <dl>
        <template v-for="b in c.o!.bars" :key="b.title">
          <dt>{{ b.title }}</dt>
          <dd class="mono">{{ figure(b.value) }} {{ b.unit }}</dd>
        </template>
        <dt>can go</dt>
        <dd class="mono">
          {{ c.o!.far ? far(c.o!.far) : '–' }}<span v-if="c.o!.farBy" class="quiet by"> by {{ c.o!.farBy }}</span>
        </dd>
        <dt>material</dt>
        <dd class="mono">{{ c.o!.priced ? `${currency}${c.o!.cost.toFixed(0)}` : '–' }}</dd>
      </dl>
    </div>
  </div>
</template>

<style scoped>
.side {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  gap: 1px;
  background: var(--line);
  border: 1px solid var(--line);
  margin: 10px 0;
}
.side > div {
  background: var(--card);
  padding: 8px 10px;
}
.side > .on {
  background: var(--copper-soft);
}
p {
  font-size: 12.5px;
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 0 12px;
  margin: 4px 0 0;
  font-size: 13px;
}
dt {
  color: var(--slate);
}
dd {
  margin: 0;
}
.by {
  font-family: 'Plex Sans', sans-serif;
}
</style>
