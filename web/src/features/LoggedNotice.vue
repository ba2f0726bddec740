<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Entry } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import PushButton from '@/kit/PushButton.vue'
import { entryWords } from '@/kept/press'

/** What was logged last on this page, and a press that takes it back: a slip of the finger ends nothing. */
const opened = useJob()
const { attempt, clear, wrong, busy } = useAttempt()
const shut = ref<string>()
const last = computed<Entry | undefined>(() => {
  const id = opened.logged.at(-1)
  return id && id !== shut.value && !opened.view.row.sealed ? opened.standing.find((e) => e.id === id) : undefined
})
watch(last, clear)
const undoable = computed(() => last.value?.kind !== 'step' || last.value.subject !== 'energise')
const undo = () => attempt(() => opened.takeBack(last.value!, ''))
</script>

<template>
  <div v-if="last" class="logged" role="status" data-logged>
    <span class="what">{{ entryWords(opened.view, last) }}</span>
    <PushButton v-if="undoable" kind="plain" :disabled="busy" data-undo-entry @click="undo">Undo</PushButton>
    <PushButton kind="own" class="away" aria-label="Put away" @click="shut = last.id">×</PushButton>
    <p v-if="wrong" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.logged {
  position: sticky;
  bottom: 8px;
  z-index: 3;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  margin-top: 10px;
  padding: 6px 12px;
  background: var(--card);
  border: 1px solid var(--line);
  border-left: 5px solid var(--sound);
  border-radius: 3px;
}
.what {
  flex: 1;
  min-width: 0;
}
.away {
  min-width: var(--tap);
  min-height: var(--tap);
  color: var(--slate);
  font-size: 18px;
}
p {
  flex-basis: 100%;
  color: var(--stop);
  font-weight: 600;
}
@media (max-width: 719px) {
  .logged {
    bottom: 100px; /* above the findings, and what is said of them without signal */
  }
}
</style>
