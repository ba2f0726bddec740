<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import SheetGroup from '@/kit/SheetGroup.vue'
import TextField from '@/kit/TextField.vue'
import { befores } from '../options'

/** One permission, notice or inspection with its dates. */
const props = defineProps<{ index: number }>()
const paper = defineModel<Schemas['Paper']>({ required: true })
const emit = defineEmits<{ remove: [] }>()
const at = (field: string) => `clearances.papers.${props.index}.${field}`
const state = computed(() => {
  const p = paper.value
  if (p.needed === 'no') return p.reason ? 'not needed' : 'not needed: say why'
  if (!p.needed) return 'needed or not?'
  if (p.granted) return 'answered'
  return p.sent ? 'sent, waiting' : 'to be sent'
})
/** An emptied date is no date. */
function date(field: 'sent' | 'granted' | 'due') {
  return computed({
    get: () => paper.value[field],
    set: (v?: string) => (paper.value[field] = v || undefined),
  })
}
const sent = date('sent')
const granted = date('granted')
const due = date('due')
</script>

<template>
  <SheetGroup :title="paper.title || 'New paper'">
    <template #actions>
      <span class="state">{{ state }}</span>
      <button class="btn plain" type="button" :aria-label="`Remove ${paper.title}`" @click="emit('remove')">
        Remove
      </button>
    </template>
    <AnswerField v-model="paper.needed" :name="at('needed')" label="Needed for this job?" />
    <TextField
      v-if="paper.needed === 'no'"
      v-model="paper.reason"
      :name="at('reason')"
      label="Why it is not needed"
      wide
    />
    <template v-else>
      <TextField v-model="sent" :name="at('sent')" label="Sent" type="date" />
      <TextField v-model="granted" :name="at('granted')" label="Answered or passed" type="date" />
      <TextField v-model="due" :name="at('due')" label="Due by" type="date" />
      <TextField v-model="paper.reference" :name="at('reference')" label="Reference" mono />
    </template>
    <TextField v-model="paper.title" :name="at('title')" label="What it is" />
    <TextField v-model="paper.who" :name="at('who')" label="Who answers" />
    <ChoiceField v-model="paper.before" :name="at('before')" label="Must come before" :options="befores" />
  </SheetGroup>
</template>

<style scoped>
.state {
  font-size: 13px;
  color: var(--slate);
}
</style>
