<script setup lang="ts">
import type { SheetState } from '@/composables/useSheet'

/** What became of the changes, in words, and the choice when someone else saved first. */
defineProps<{ state: SheetState; reason: string; off?: boolean }>()
const emit = defineEmits<{ mine: []; theirs: []; retry: [] }>()
</script>

<template>
  <span v-if="state === 'saved' && off" class="quiet state" data-state="saved">to read only, for you</span>
  <span v-else-if="state === 'saved'" class="quiet state" data-state="saved">saved</span>
  <span v-else-if="state === 'waiting' || state === 'saving'" class="quiet state" data-state="saving">saving…</span>
  <div v-else-if="state === 'conflict'" class="banner" role="alert" data-state="conflict">
    <p>{{ reason }}. What you typed is still here.</p>
    <span class="row">
      <button class="btn" type="button" @click="emit('mine')">Keep what I typed</button>
      <button class="btn plain" type="button" @click="emit('theirs')">Take theirs</button>
    </span>
  </div>
  <div v-else class="banner" role="alert" data-state="refused">
    <p>Not saved: {{ reason }}</p>
    <button class="btn plain" type="button" @click="emit('retry')">Try again</button>
  </div>
</template>

<style scoped>
.state {
  font-size: 13px;
}
.banner {
  flex-basis: 100%;
  order: 9;
  border: 1px solid var(--stop);
  border-left-width: 5px;
  background: var(--stop-soft);
  border-radius: 3px;
  padding: 8px 12px;
  display: flex;
  gap: 12px;
  align-items: center;
  justify-content: space-between;
  flex-wrap: wrap;
}
</style>
