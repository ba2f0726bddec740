<script setup lang="ts">
import type { Schemas, Verdict } from '@/api/client'
import KeptPhoto from './KeptPhoto.vue'
import VerdictMark from './VerdictMark.vue'

/** What a paper says, as it will be printed. Photos and the site plan are shown to who may open the job. */
defineProps<{ blocks: Schemas['PreviewBlock'][]; job?: string; lang?: string }>()
</script>

<template>
  <article class="sheet" :lang="lang">
    <template v-for="(b, i) in blocks" :key="i">
      <h2>{{ b.heading }}</h2>
      <p v-for="t in b.text" :key="t" :class="{ caution: b.caution }">{{ t }}</p>
      <dl v-if="b.pairs">
        <template v-for="pair in b.pairs" :key="pair[0]">
          <dt>{{ pair[0] }}</dt>
          <dd>{{ pair[1] }}</dd>
        </template>
      </dl>
      <img v-if="b.plan && job" class="plan" :src="`api/jobs/${job}/site-plan.svg`" alt="Site plan" />
      <div v-if="b.pictures && job" class="pictures">
        <figure v-for="pic in b.pictures" :key="pic.digest">
          <KeptPhoto :job="job!" :digest="pic.digest" :alt="pic.caption" />
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
</template>

<style scoped>
.sheet {
  font-size: 13px;
}
h2 {
  font-size: 14px;
  margin: 14px 0 4px;
}
.plan {
  max-width: 100%;
  max-height: 420px;
}
.pictures {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
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
  grid-template-columns: minmax(0, min(180px, 38%)) minmax(0, 1fr);
  overflow-wrap: anywhere;
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
