<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import VerdictMark from '@/kit/VerdictMark.vue'
import { stageTitle } from '@/router'
import { dayText } from '@/kit/dates'

const props = defineProps<{ job: Schemas['Summary']; book: string }>()
const router = useRouter()
const to = computed(() => `/jobs/${props.job.id}/${props.job.stage}`)
</script>

<template>
  <tr class="job" @click="router.push(to)">
    <td class="number">
      <router-link :to="to" class="mono">{{ job.number }}</router-link>
    </td>
    <td class="where">
      <b>{{ job.customer || 'no customer yet' }}</b>
      <span class="quiet">{{ [job.address, job.town].filter(Boolean).join(', ') }}</span>
    </td>
    <td class="wide quiet">{{ book }}</td>
    <td>{{ job.sealed ? 'Sealed' : stageTitle(job.stage) }}</td>
    <td>
      <span v-if="job.stops" class="why"><VerdictMark verdict="stop" /> {{ job.blocker }}</span>
      <span v-else-if="job.opens" class="why quiet"><VerdictMark verdict="open" /> {{ job.opens }} open</span>
      <span v-else class="why quiet"><VerdictMark verdict="sound" /> nothing</span>
    </td>
    <td class="date">
      <template v-if="job.nextDate">
        <span class="mono">{{ dayText(job.nextDate) }}</span> <span class="quiet">{{ job.nextWhat }}</span>
      </template>
      <span v-else class="quiet">none set</span>
    </td>
  </tr>
</template>

<style scoped>
.job {
  cursor: pointer;
}
.job:hover {
  background: var(--band);
}
.where b {
  display: block;
  font-weight: 600;
}
.where span,
.date .quiet {
  font-size: 13px;
}
.date .quiet {
  display: block;
}
.number a {
  text-decoration: none;
  white-space: nowrap;
}
.why {
  display: flex;
  gap: 7px;
  align-items: center;
}
@media (max-width: 719px) {
  .wide {
    display: none;
  }
  .job {
    display: grid;
    grid-template-columns: 84px 1fr;
    padding: 8px 0;
    border-bottom: 1px solid var(--line);
  }
  td {
    border: 0;
    padding: 2px 6px;
  }
  .number {
    grid-row: 1 / span 4;
  }
}
</style>
