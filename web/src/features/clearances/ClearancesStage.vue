<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import { useSection } from '@/composables/useSection'
import EmptyState from '@/kit/EmptyState.vue'
import PushButton from '@/kit/PushButton.vue'
import { todayHere } from '@/kit/dates'
import SaveState from '@/kit/SaveState.vue'
import CorrectionsPart from './CorrectionsPart.vue'
import HeldUp from './HeldUp.vue'
import PaperCard from './PaperCard.vue'
import PaperTimeline from './PaperTimeline.vue'
import SitePart from './SitePart.vue'
import ToComePart from './ToComePart.vue'
import { usePapers } from './usePapers'

const opened = useJob()
const { may } = useMe()
const { draft, state, reason, save, clashes, retry, settle, theirs } = useSection(
  'clearances',
  (s) => ({ ...s, papers: s.papers ?? [] }),
  true,
)
const sealed = computed(() => opened.view.row.sealed)
const papers = usePapers()
const view = papers.query.data
const off = computed(() => !may('save the clearances'))
const changes = computed(() => view.value?.proposals.filter((p) => p.change) ?? [])
async function take() {
  await save()
  await papers.take(opened.view.revisions.clearances ?? 0)
}
async function send(paper: string, anyway: string) {
  await save()
  await papers.send(paper, anyway)
}
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
    <span class="quiet">a paper that bounces costs weeks</span>
    <span class="grow" />
    <a
      v-if="opened.view.book.practice.package"
      class="btn plain"
      :href="`api/jobs/${opened.id}/package`"
      download
      data-package
      >{{ opened.view.book.practice.package }}, PDF</a
    >
    <PushButton
      kind="plain"
      v-if="view?.desk"
      :disabled="off"
      title="Asks the simulated desks about everything that was sent"
      @click="papers.fetchAnswers"
    >
      Fetch answers
    </PushButton>
    <SaveState
      :state="state"
      :reason="reason"
      :clashes="clashes"
      :off="off"
      @retry="retry"
      @settle="settle"
      @theirs="theirs"
    />
  </header>
  <p v-if="papers.told.value" class="said" :class="{ failed: papers.wrong.value }" role="status">
    {{ papers.told.value }}
  </p>
  <HeldUp v-if="view" :blocking="view.blocking" />
  <section v-if="changes.length" class="card group" data-proposals>
    <header class="row">
      <h2>What this job needs, by its survey and design</h2>
      <span class="grow" />
      <PushButton :disabled="off || sealed" @click="take">Take over</PushButton>
    </header>
    <ul>
      <li v-for="p in changes" :key="p.paper.id">
        <b>{{ p.paper.title }}</b> <span class="quiet">{{ p.change }}</span>
      </li>
    </ul>
  </section>
  <PaperTimeline v-if="view" :bars="view.timeline" :today="view.today" :day="opened.view.job.plan?.day" />
  <ToComePart v-if="view && sealed" :coming="view.toCome" :today="view.today" />
  <CorrectionsPart :papers="draft.papers" :today="view?.today ?? todayHere()" />
  <fieldset :disabled="off" data-field="clearances.papers">
    <EmptyState v-if="!draft.papers.length" title="No papers listed" text="Take over what this job needs." />
    <PaperCard
      v-for="(p, i) in draft.papers"
      :key="p.id"
      v-model="draft.papers[i]"
      :index="i"
      :view="view"
      :sealed="sealed"
      @send="(anyway: string) => send(p.id, anyway)"
      @remove="draft.papers.splice(i, 1)"
    />
    <PushButton v-if="!sealed" kind="plain" class="add" @click="add">Add a paper</PushButton>
  </fieldset>
  <SitePart :off="sealed || !may('save the site')" />
</template>

<style scoped>
.add {
  margin-top: 12px;
}
.group {
  margin-top: 12px;
}
ul {
  margin: 8px 0 0;
  padding-left: 18px;
}
.said {
  margin-top: 8px;
  font-weight: 600;
}
.failed {
  color: var(--stop);
}
</style>
