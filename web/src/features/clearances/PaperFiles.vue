<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { useJob } from '@/composables/useJob'
import FileButton from '@/kit/FileButton.vue'
import { useFiles } from './useFiles'

/** Files of a paper that has no form of ours: the permit itself, a letter, a card. */
const paper = defineModel<Schemas['Paper']>({ required: true })
const opened = useJob()
const { wrong, keep } = useFiles()
async function add(file: File) {
  const kept = await keep(file)
  if (kept)
    paper.value.attached = [...(paper.value.attached ?? []), { kind: 'paper', digest: kept.digest, name: kept.name }]
}
</script>

<template>
  <p class="row files">
    <FileButton plain accept=".pdf,.jpg,.jpeg,.png" @chosen="add">Add a file</FileButton>
    <a v-for="a in paper.attached" :key="a.digest" :href="`api/jobs/${opened.id}/files/${a.digest}`">{{ a.name }}</a>
    <b v-if="wrong" class="error" role="alert">{{ wrong }}</b>
  </p>
</template>

<style scoped>
.files {
  margin-top: 10px;
}
.error {
  color: var(--stop);
}
</style>
