<script setup lang="ts">
import { computed } from 'vue'
import { ask, client, type Entry } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import { stages, stageTitle } from '@/router'
import ToComePart from '../clearances/ToComePart.vue'
import { usePapers } from '../clearances/usePapers'
import ChangesPart from './ChangesPart.vue'
import CustomerData from './CustomerData.vue'
import IssueList from './IssueList.vue'
import PagePart from './PagePart.vue'
import PaperPreview from './PaperPreview.vue'
import ReceiptPart from './ReceiptPart.vue'
import SignPanel from './SignPanel.vue'

const opened = useJob()
const { may } = useMe()
const papers = usePapers()
const blocking = computed(() =>
  opened.view.findings.filter((f) => f.verdict === 'open' || (f.verdict === 'stop' && !f.overriddenBy)),
)
const byStage = computed(() =>
  stages.map((s) => ({ stage: s, lines: blocking.value.filter((f) => f.stage === s) })).filter((g) => g.lines.length),
)
const { attempt, wrong: error, busy } = useAttempt()

const write = (entries: Partial<Entry>[]) => attempt(() => opened.log(entries))
const seal = () =>
  attempt(async () =>
    opened.accept(await ask(client.POST('/api/jobs/{job}/seal', { params: { path: { job: opened.id } } }))),
  )
const amend = (reason: string) =>
  attempt(async () =>
    opened.accept(
      await ask(client.POST('/api/jobs/{job}/amend', { params: { path: { job: opened.id } }, body: { reason } })),
    ),
  )
const withdraw = (issue: number, reason: string) =>
  attempt(async () =>
    opened.accept(
      await ask(
        client.POST('/api/jobs/{job}/records/{issue}/withdraw', {
          params: { path: { job: opened.id, issue } },
          body: { reason },
        }),
      ),
    ),
  )
const drop = () =>
  attempt(async () =>
    opened.accept(await ask(client.DELETE('/api/jobs/{job}/amend', { params: { path: { job: opened.id } } }))),
  )
</script>

<template>
  <header class="row">
    <h1>Handover</h1>
    <span v-if="opened.view.amending" class="quiet">amendment open: {{ opened.view.amending }}</span>
    <span class="grow" />
    <PushButton
      kind="main"
      v-if="!opened.view.row.sealed && may('seal a record')"
      :disabled="busy || blocking.length > 0"
      data-action="seal"
      @click="seal"
    >
      Seal the record
    </PushButton>
  </header>
  <p v-if="!opened.view.row.sealed && !may('seal a record')" class="quiet">Only a verifier seals.</p>
  <p v-if="error" class="error" role="alert">{{ error }}</p>
  <IssueList
    :issues="opened.view.records"
    :job="opened.id"
    :sealed="opened.view.row.sealed"
    @amend="amend"
    @withdraw="withdraw"
  >
    <PagePart v-if="opened.view.records.length" />
  </IssueList>
  <ChangesPart v-if="opened.view.amending" :busy="busy" @drop="drop" />
  <section v-if="!opened.view.row.sealed" class="card missing">
    <p v-if="!blocking.length" class="row"><VerdictMark verdict="sound" /> <b>Nothing is missing for the seal.</b></p>
    <template v-else>
      <b>{{ blocking.length }} {{ blocking.length === 1 ? 'thing stands' : 'things stand' }} in the way of the seal</b>
      <p v-for="g in byStage" :key="g.stage" class="row stage">
        <router-link :to="`/jobs/${opened.id}/${g.stage}`">{{ stageTitle(g.stage) }}</router-link>
        <span class="quiet">{{ g.lines.map((f) => f.title).join(' · ') }}</span>
      </p>
    </template>
  </section>
  <SignPanel v-if="!opened.view.row.sealed" :busy="busy" @write="write" />
  <ReceiptPart :busy="busy" @write="write" />
  <PagePart v-if="!opened.view.records.length" />
  <ToComePart
    v-if="papers.query.data.value"
    :coming="papers.query.data.value.toCome"
    :today="papers.query.data.value.today"
  />
  <PaperPreview v-if="!opened.view.row.sealed" />
  <CustomerData v-if="may('handle customers\' data')" />
</template>

<style scoped>
.error {
  color: var(--stop);
  font-weight: 600;
  margin-top: 8px;
}
.missing {
  margin-top: 12px;
  display: grid;
  gap: 6px;
}
.stage {
  flex-wrap: nowrap;
  align-items: baseline;
}
.stage a {
  flex: 0 0 96px;
}
</style>
