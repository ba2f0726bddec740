<script setup lang="ts">
import { ref } from 'vue'
import type { Entry } from '@/api/client'

/** A note, or a near miss: written down without blame. */
const emit = defineEmits<{ write: [Partial<Entry>[]] }>()
const open = ref(false)
const words = ref('')
function write() {
  emit('write', [{ kind: 'note', subject: 'near-miss', reason: words.value }])
  words.value = ''
  open.value = false
}
</script>

<template>
  <button class="btn plain" type="button" @click="open = true">Note or near miss</button>
  <v-dialog v-model="open" max-width="460">
    <form class="card" @submit.prevent="write">
      <h1>Note or near miss</h1>
      <p class="quiet">What happened, in a few words. Nobody is blamed for writing it down.</p>
      <textarea v-model="words" rows="3" aria-label="What happened" />
      <button class="btn main" type="submit" :disabled="!words.trim()">Write it down</button>
    </form>
  </v-dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
}
textarea {
  font: inherit;
  color: var(--ink);
  background: var(--field);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 8px;
}
</style>
