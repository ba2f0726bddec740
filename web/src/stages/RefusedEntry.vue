<script setup lang="ts">
import { computed, ref } from 'vue'
import { useJob } from '@/composables/useJob'
import { drop, waiting } from '@/kept/outbox'
import { tryAgain } from '@/kept/sender'
import { momentText } from '@/kit/dates'

/** What was entered about a step, a terminal or a test and was not taken: why, and what can be done about it. */
const props = defineProps<{ subject: string; point?: string }>()
const opened = useJob()
const error = ref('')
const items = computed(() =>
  waiting.value.filter(
    (i) =>
      i.refused &&
      i.job === opened.id &&
      i.entries?.some((e) => e.subject === props.subject && (e.point ?? '') === (props.point ?? '')),
  ),
)
async function anew(i: (typeof items.value)[number]) {
  error.value = ''
  try {
    await opened.anew(i)
  } catch (e) {
    error.value = (e as Error).message
  }
}
const away = (i: (typeof items.value)[number]) =>
  window.confirm(`Put away what was not taken: ${i.what}? It is gone then.`) && drop(i.seq)
</script>

<template>
  <div v-for="i in items" :key="i.seq" class="refused" role="alert" data-refused>
    <p>
      <b>× Not taken</b> {{ momentText(i.at) }}, {{ i.what }}<br />
      {{ i.refused!.message }}
    </p>
    <p v-if="error" class="error">{{ error }}</p>
    <span class="row">
      <button class="btn" type="button" data-anew @click="anew(i)">Enter anew, now</button>
      <button class="btn plain" type="button" @click="tryAgain(i.seq)">Try again</button>
      <button class="btn plain" type="button" @click="away(i)">Put away</button>
    </span>
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
.error {
  color: var(--stop);
  font-weight: 600;
}
</style>
