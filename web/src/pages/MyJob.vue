<script setup lang="ts">
import { computed } from 'vue'
import type { JobView } from '@/api/client'
import { weekdayText } from '@/kit/dates'
import { waiting } from '@/kept/outbox'
import { nextStep, waitsFor } from '@/features/install/nextStep'

/** One job of a crew: when and where, what the van lacks, what is not sent, and the next step. */
const props = defineProps<{ view: JobView; today?: boolean }>()
const row = computed(() => props.view.row)
const plan = computed(() => props.view.job.plan ?? {})
const steps = computed(() => props.view.steps)
const next = computed(() => nextStep(steps.value) ?? steps.value.find((s) => !s.done && !s.optional))
const done = computed(() => steps.value.filter((s) => s.done).length)
const lacking = computed(() => (plan.value.parts ?? []).filter((p) => !p.inHand))
const unsent = computed(() => waiting.value.filter((i) => i.job === row.value.id).length)
</script>

<template>
  <article class="card job" :data-mine="row.number">
    <header class="row">
      <b class="mono">{{ today ? plan.start : plan.day ? `${weekdayText(plan.day)} ${plan.start ?? ''}` : '' }}</b>
      <router-link :to="`/jobs/${row.id}`" class="mono">{{ row.number }}</router-link>
      <span class="grow" />
      <span class="quiet">{{ done }} of {{ steps.length }} steps</span>
    </header>
    <p>
      <b>{{ row.customer }}</b><br />
      {{ [row.address, row.town].filter(Boolean).join(', ') }}
    </p>
    <p v-if="lacking.length" class="heed watch">
      Not in hand:
      {{
        lacking
          .slice(0, 3)
          .map((p) => p.name)
          .join(', ')
      }}{{ lacking.length > 3 ? ` and ${lacking.length - 3} more` : '' }}
    </p>
    <p v-if="unsent" class="heed watch">{{ unsent }} {{ unsent === 1 ? 'thing is' : 'things are' }} not sent yet</p>
    <p v-if="next && waitsFor(next).length" class="heed watch">
      {{ next.title }} waits for: {{ waitsFor(next).join(', ') }}
    </p>
    <div class="row">
      <router-link class="btn plain" :to="`/jobs/${row.id}/day-sheet`">What to load</router-link>
      <router-link v-if="next" class="btn go" :class="{ main: today }" :to="`/jobs/${row.id}/install`" data-next>
        {{ next.title }}
      </router-link>
      <router-link v-else class="btn go" :class="{ main: today }" :to="`/jobs/${row.id}/commission`" data-next
        >Commission</router-link
      >
    </div>
  </article>
</template>

<style scoped>
.job {
  margin-top: 12px;
  display: grid;
  gap: 8px;
}
p {
  margin: 0;
}
.go {
  flex: 1;
  min-width: 0;
}
</style>
