<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { ref } from 'vue'
import { ask, client, type Entry } from '@/api/client'
import PushButton from '@/kit/PushButton.vue'
import WordsField from '@/kit/WordsField.vue'

/** A near miss in two presses, or in words: written down without blame. */
const emit = defineEmits<{ write: [Partial<Entry>[]] }>()
const open = ref(false)
const words = ref('')
const kinds = useQuery({
  queryKey: ['near-misses'],
  queryFn: () => ask(client.GET('/api/near-misses')),
  staleTime: 60_000,
})
function write(reason: string, value?: string) {
  emit('write', [{ kind: 'note', subject: 'near-miss', value, reason }])
  words.value = ''
  open.value = false
}
</script>

<template>
  <PushButton kind="plain" @click="open = true">Note or near miss</PushButton>
  <v-dialog v-if="open" v-model="open" max-width="460" aria-label="Note or near miss">
    <form class="card" @submit.prevent="write(words)">
      <h1>What happened, or nearly?</h1>
      <p class="quiet">One press writes it down. Nobody is blamed; the firm’s list has no names.</p>
      <PushButton
        kind="plain"
        v-for="k in kinds.data.value?.kinds"
        :key="k.id"
        class="kind"
        :data-near-miss="k.id"
        @click="write(k.title, k.id)"
      >
        {{ k.title }}
      </PushButton>
      <WordsField v-model="words" label="In other words" placeholder="In other words" />
      <PushButton type="submit" :disabled="!words.trim()">Write it down</PushButton>
    </form>
  </v-dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
  max-height: 86vh;
  overflow: auto;
}
.kind {
  justify-content: flex-start;
  text-align: left;
  font-weight: 400;
}
</style>
