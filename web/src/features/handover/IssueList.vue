<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useMe } from '@/composables/useMe'
import FieldGroup from '@/kit/FieldGroup.vue'
import LineField from '@/kit/LineField.vue'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import { momentText } from '@/kit/dates'

/** The sealed issues with their papers, and the way to an amendment. */
const props = defineProps<{ issues: Schemas['Issue'][]; job: string; sealed: boolean; certificate?: string }>()
const emit = defineEmits<{ amend: [string] }>()
const { may } = useMe()
const reason = ref('')
/** The issue that replaces one, if it was amended. */
const next = (i: Schemas['Issue']) => props.issues.find((o) => o.issue === i.issue + 1)
const papersOf = (i: Schemas['Issue']) =>
  i.certified ? [{ kind: 'certificate', title: `${props.certificate}, PDF` }, ...papers] : papers
const papers = [
  { kind: 'inspection', title: 'Inspection record, PDF' },
  { kind: 'handover', title: 'Handover pack, PDF' },
  { kind: 'record', title: 'Record, JSON' },
]
</script>

<template>
  <FieldGroup v-for="i in issues" :key="i.issue" :title="`Issue ${i.issue}`">
    <template #below>
      <p class="row">
        <VerdictMark :verdict="next(i) ? 'watch' : 'sound'" /> sealed {{ momentText(i.sealedAt) }} by {{ i.sealedBy }},
        code
        <span class="mono">{{ i.code }}</span>
        <span v-if="i.replaces" class="quiet">replaces {{ i.replaces }}</span>
        <b v-if="next(i)" data-replaced>replaced by issue {{ next(i)!.issue }}, code {{ next(i)!.code }}</b>
      </p>
      <p class="row links">
        <a
          v-for="p in papersOf(i)"
          :key="p.kind"
          class="btn"
          :href="`api/jobs/${job}/records/${i.issue}/${p.kind}`"
          :data-paper="p.kind"
          download
          >{{ p.title }}</a
        >
        <router-link class="btn plain" to="/verify">Check a file</router-link>
      </p>
    </template>
  </FieldGroup>
  <form v-if="sealed && may('seal a record')" class="card amend" @submit.prevent="emit('amend', reason)">
    <label>
      A sealed record cannot be edited. An amendment becomes a new issue that names this one. Why is it needed?
      <LineField v-model="reason" />
    </label>
    <PushButton kind="plain" type="submit" :disabled="reason.trim().length < 10">Open an amendment</PushButton>
  </form>
</template>

<style scoped>
.links {
  margin-top: 10px;
}
.amend {
  margin-top: 12px;
  display: grid;
  gap: 10px;
  justify-items: start;
}
label {
  display: grid;
  gap: 6px;
  width: 100%;
}
</style>
