<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

/** The four ceilings of the setting; the lowest rules, and the page says what more would gain. */
const props = defineProps<{ ceilings: Schemas['Ceiling'][]; setting?: number }>()
const longest = computed(() => Math.max(...props.ceilings.map((c) => c.amps), props.setting ?? 0, 1))
const share = (amps: number) => (amps / longest.value) * 100
const ruling = computed(() => props.ceilings.find((c) => c.rules))
const say = computed(() => {
  const r = ruling.value
  const need = props.ceilings.find((c) => c.id === 'need')
  if (!r) return 'Not enough is known to say which ceiling rules.'
  const words: Record<string, string> = {
    service: 'The service rules: a lower setting, load management or a larger service would change it.',
    board: 'The board rules: room on it would change it.',
    vehicle: 'The vehicle rules: more amps gain nothing today, and may for the next one.',
  }
  const enough =
    need?.known && need.amps <= r.amps ? ` ${need.amps.toFixed(0)} A would do for what is needed by departure.` : ''
  const short = need?.known && need.amps > r.amps ? ' It does not give what is needed by departure.' : ''
  return words[r.id] + enough + short
})
</script>

<template>
  <section class="card ceilings" aria-label="What bounds the setting">
    <div v-for="c in ceilings" :key="c.id" class="ceiling" :class="{ rules: c.rules }" :data-ceiling="c.id">
      <span class="title">{{ c.title }}</span>
      <svg viewBox="0 0 100 8" preserveAspectRatio="none" aria-hidden="true">
        <rect width="100" height="8" class="ground" />
        <rect v-if="c.known" :width="share(c.amps)" height="8" class="value" />
        <rect v-if="setting" :x="share(setting) - 0.4" width="0.8" height="8" class="tick" />
      </svg>
      <span class="mono right">{{ c.known ? `${c.amps.toFixed(0)} A` : 'open' }}</span>
      <span class="quiet note">{{ c.note }}</span>
    </div>
    <p class="say">{{ say }}</p>
  </section>
</template>

<style scoped>
.ceilings {
  margin-top: 12px;
}
.ceiling {
  display: grid;
  grid-template-columns: 150px minmax(80px, 1fr) 56px minmax(0, 1.4fr);
  gap: 12px;
  align-items: center;
  min-height: 26px;
}
svg {
  width: 100%;
  height: 8px;
  display: block;
}
.ground {
  fill: var(--line);
  opacity: 0.6;
}
.value {
  fill: var(--open);
}
.tick {
  fill: var(--ink);
}
.rules .title {
  font-weight: 600;
}
.rules .value {
  fill: var(--copper);
}
.note,
.say {
  font-size: 13px;
}
.say {
  margin-top: 8px;
}
@media (max-width: 719px) {
  .ceiling {
    grid-template-columns: 1fr 56px;
    padding: 4px 0;
  }
  .ceiling svg,
  .note {
    grid-column: 1 / -1;
  }
}
</style>
