<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useMe } from '@/composables/useMe'
import { useSheet } from '@/composables/useSheet'
import EmptyState from '@/kit/EmptyState.vue'
import SheetState from '@/kit/SheetState.vue'
import PaperCard from './PaperCard.vue'

const { may } = useMe()
const { draft, state, reason, locked, retry, mine, theirs } = useSheet('clearances', (s) => ({
  ...s,
  papers: s.papers ?? [],
}))
const off = computed(() => locked.value || !may('save the clearances'))
function add() {
  const ids = draft.value.papers.map((p: Schemas['Paper']) => p.id)
  let n = 1
  while (ids.includes(`paper-${n}`)) n++
  draft.value.papers.push({ id: `paper-${n}`, before: 'installing' })
}
</script>

<template>
  <header class="row">
    <h1>Clearances</h1>
    <span class="quiet">a paper that bounces costs weeks: dates in order, references kept</span>
    <span class="grow" />
    <SheetState :state="state" :reason="reason" :off="off" @retry="retry" @mine="mine" @theirs="theirs" />
  </header>
  <fieldset :disabled="off" data-field="clearances.papers">
    <EmptyState v-if="!draft.papers.length" title="No papers listed" text="Add what this job needs from others." />
    <PaperCard
      v-for="(p, i) in draft.papers"
      :key="p.id"
      v-model="draft.papers[i]"
      :index="i"
      @remove="draft.papers.splice(i, 1)"
    />
    <button class="btn plain add" type="button" @click="add">Add a paper</button>
  </fieldset>
</template>

<style scoped>
.add {
  margin-top: 12px;
}
</style>
