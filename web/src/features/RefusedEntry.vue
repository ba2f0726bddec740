<script setup lang="ts">
import { computed } from 'vue'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import { waiting } from '@/kept/outbox'
import RefusedActions from '@/kit/RefusedActions.vue'
import { momentText } from '@/kit/dates'

/** What was entered about a step, a terminal or a test and was not taken: why, and what can be done about it. */
const props = defineProps<{ subject: string; point?: string }>()
const opened = useJob()
const { attempt, wrong: error } = useAttempt()
const items = computed(() =>
  waiting.value.filter(
    (i) =>
      i.refused &&
      i.job === opened.id &&
      i.entries?.some((e) => e.subject === props.subject && (e.point ?? '') === (props.point ?? '')),
  ),
)
async function anew(i: (typeof items.value)[number]) {
  await attempt(async () => {
    await opened.anew(i)
  })
}
</script>

<template>
  <div v-for="i in items" :key="i.seq" class="refused" role="alert" data-refused>
    <p>
      <b>× Not taken</b> {{ momentText(i.at) }}, {{ i.what }}<br />
      {{ i.refused!.message }}
    </p>
    <p v-if="error" class="error">{{ error }}</p>
    <RefusedActions :item="i" @anew="anew(i)" />
  </div>
</template>

<style scoped>
.refused {
  grid-column: 1 / -1;
  border-left: 5px solid var(--stop);
  padding: 4px 10px;
  margin: 6px 0;
  font-size: 13.5px;
}
p {
  margin: 0 0 6px;
}
</style>
