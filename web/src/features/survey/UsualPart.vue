<script setup lang="ts">
import { toRef } from 'vue'
import PushButton from '@/kit/PushButton.vue'
import type { Survey } from './shape'
import { useUsual } from './useUsual'

/** What is usual here, line by line, to be confirmed at once by whoever has looked. */
const survey = defineModel<Survey>({ required: true })
const { open, confirm } = useUsual(toRef(() => survey.value))
</script>

<template>
  <section v-if="open.length" class="card usual" aria-labelledby="usual">
    <h2 id="usual">As usual here?</h2>
    <p class="quiet">What is otherwise is changed in its section; what was answered already stays.</p>
    <ul>
      <li v-for="u in open" :key="u.field">{{ u.says }}</li>
    </ul>
    <PushButton kind="main" data-usual @click="confirm">
      As usual here: {{ open.length }} {{ open.length === 1 ? 'answer' : 'answers' }}
    </PushButton>
  </section>
</template>

<style scoped>
.usual {
  margin-top: 12px;
}
h2 {
  margin: 0;
}
ul {
  margin: 6px 0 12px;
  padding-left: 18px;
  columns: 2 260px;
}
</style>
