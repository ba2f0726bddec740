<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client } from '@/api/client'
import { useJob } from '@/composables/useJob'
import PaperSheet from '@/kit/PaperSheet.vue'
import PushButton from '@/kit/PushButton.vue'

/** A paper as it would be sealed now. */
type Kind = 'inspection' | 'certificate' | 'handover'
const opened = useJob()
const papers = computed(() => {
  const certificate = opened.view.book.practice.certificate
  return [
    ...(certificate ? [{ kind: 'certificate' as Kind, title: 'Certificate' }] : []),
    { kind: 'inspection' as Kind, title: 'Inspection record' },
    { kind: 'handover' as Kind, title: 'Handover pack' },
  ]
})
const kind = ref<Kind>('inspection')
const preview = useQuery({
  queryKey: computed(() => ['preview', opened.id, kind.value, opened.view.job.log?.length, opened.view.revisions]),
  queryFn: () =>
    ask(client.GET('/api/jobs/{job}/preview/{kind}', { params: { path: { job: opened.id, kind: kind.value } } })),
  placeholderData: keepPreviousData,
})
</script>

<template>
  <section class="card paper" aria-label="Preview" data-field="handover.certificate">
    <header class="row">
      <b>Preview</b>
      <PushButton
        kind="plain"
        v-for="k in papers"
        :key="k.kind"
        :class="{ on: kind === k.kind }"
        :aria-pressed="kind === k.kind"
        :data-preview="k.kind"
        @click="kind = k.kind"
      >
        {{ k.title }}
      </PushButton>
    </header>
    <p v-if="preview.data.value?.named" class="named" role="status" data-named>
      The paper’s typeface lacks {{ preview.data.value.named.length === 1 ? 'a character' : 'some characters' }}.
      Printed by name instead, kept whole in the record’s data: {{ preview.data.value.named.join(', ') }}
    </p>
    <div
      v-if="preview.data.value"
      class="scroll"
      tabindex="0"
      role="region"
      aria-label="The paper as it will be printed"
    >
      <PaperSheet class="sheet" :blocks="preview.data.value.blocks" :job="opened.id" :lang="preview.data.value.lang" />
    </div>
  </section>
</template>

<style scoped>
.named {
  border-left: 4px solid var(--watch);
  padding: 4px 10px;
  margin: 10px 0;
}
.paper {
  margin-top: 12px;
}
.on {
  border-color: var(--copper);
  background: var(--copper-soft);
  color: var(--ink);
}
.scroll {
  max-height: 520px;
  overflow: auto;
  margin-top: 10px;
  border-top: 1px solid var(--line);
}
</style>
