<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client, type Verdict } from '@/api/client'
import { useJob } from '@/composables/useJob'
import KeptPhoto from '@/kit/KeptPhoto.vue'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'

/** A paper as it would be sealed now. */
type Kind = 'inspection' | 'certificate' | 'handover'
const opened = useJob()
const papers = computed(() => {
  const certificate = opened.view.book.practice.certificate
  return [
    ...(certificate ? [{ kind: 'certificate' as Kind, title: certificate }] : []),
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
    <article v-if="preview.data.value" class="sheet" tabindex="0" aria-label="The paper as it will be printed">
      <template v-for="(b, i) in preview.data.value.blocks" :key="i">
        <h2>{{ b.heading }}</h2>
        <p v-for="t in b.text" :key="t" :class="{ caution: b.caution }">{{ t }}</p>
        <dl v-if="b.pairs">
          <template v-for="pair in b.pairs" :key="pair[0]">
            <dt>{{ pair[0] }}</dt>
            <dd>{{ pair[1] }}</dd>
          </template>
        </dl>
        <img v-if="b.plan" class="plan" :src="`api/jobs/${opened.id}/site-plan.svg`" alt="Site plan" />
        <div v-if="b.pictures" class="pictures">
          <figure v-for="pic in b.pictures" :key="pic.digest">
            <KeptPhoto :job="opened.id" :digest="pic.digest" :alt="pic.caption" />
            <figcaption>{{ pic.caption }}</figcaption>
          </figure>
        </div>
        <table v-if="b.columns" :class="{ across: b.across }">
          <thead>
            <tr>
              <th v-if="b.verdicts" />
              <th v-for="c in b.columns" :key="c">{{ c }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(r, k) in b.rows" :key="k">
              <td v-if="b.verdicts">
                <VerdictMark v-if="b.verdicts[k]" :verdict="b.verdicts[k] as Verdict" :size="14" />
              </td>
              <td v-for="(cell, n) in r" :key="n">{{ cell }}</td>
            </tr>
          </tbody>
        </table>
      </template>
    </article>
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
.sheet {
  font-size: 13px;
  max-height: 520px;
  overflow: auto;
  margin-top: 10px;
  border-top: 1px solid var(--line);
}
h2 {
  font-size: 14px;
  margin: 14px 0 4px;
}
.pictures {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
.plan {
  max-width: 100%;
  max-height: 420px;
}
figure {
  margin: 0;
}
figure :deep(img) {
  max-width: 100%;
}
.across {
  font-size: 11.5px;
}
dl {
  display: grid;
  grid-template-columns: 180px 1fr;
  gap: 2px 12px;
  margin: 0;
}
dt {
  color: var(--slate);
}
dd {
  margin: 0;
}
.caution {
  color: var(--stop);
}
</style>
