<script setup lang="ts">
import type { Schemas } from '@/api/client'
import VerdictMark from '@/kit/VerdictMark.vue'

/** What speaks against a day, the weightiest first. */
defineProps<{ reasons: Schemas['Reason'][] }>()
const marks = { never: 'stop', against: 'watch', note: 'open' } as const
const words = { never: 'never', against: 'only with a reason', note: 'to know' }
</script>

<template>
  <ul class="reasons" data-reasons>
    <li v-for="r in reasons" :key="r.kind + r.what" :data-reason="r.kind">
      <VerdictMark :verdict="marks[r.verdict]" :size="16" />
      <span>
        <b>{{ r.what }}</b>
        <span class="remedy">{{ r.remedy }} ({{ words[r.verdict] }})</span>
      </span>
    </li>
  </ul>
</template>

<style scoped>
.reasons {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
li {
  display: flex;
  gap: 8px;
  align-items: flex-start;
  padding: 4px 0;
}
b {
  font-weight: 600;
}
.remedy {
  display: block;
  color: var(--slate);
  font-size: 13px;
}
li > :first-child {
  margin-top: 2px;
}
</style>
