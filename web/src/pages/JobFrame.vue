<script setup lang="ts">
import { computed, defineAsyncComponent, nextTick, onBeforeUnmount, provide, ref, toRef, watch, watchEffect } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, client, type Finding, type JobView } from '@/api/client'
import { provideJob, useJobQuery } from '@/composables/useJob'
import { limitClashes } from '@/composables/useSection'
import { signal } from '@/kept/fetch'
import { useKeys } from '@/composables/useKeys'
import EmptyState from '@/kit/EmptyState.vue'
import { growing } from '@/composables/useGradually'
import LaterPart from '@/kit/LaterPart.vue'
import { writeDays } from '@/kit/dates'
import PushButton from '@/kit/PushButton.vue'
import TopBar from '@/kit/TopBar.vue'
import { stages } from '@/router'
import JobSpine from './JobSpine.vue'
import RefusedPart from './RefusedPart.vue'
import StorageNotice from './StorageNotice.vue'
import { useAttempt } from '@/composables/useAttempt'
import VerdictRail from './VerdictRail.vue'

const CommandDialog = defineAsyncComponent(() => import('./CommandDialog.vue'))
const HistoryDialog = defineAsyncComponent(() => import('./HistoryDialog.vue'))
const KeysDialog = defineAsyncComponent(() => import('./KeysDialog.vue'))
const props = defineProps<{ job: string }>()
const route = useRoute()
const router = useRouter()
const { query, show } = useJobQuery(toRef(props, 'job'))
const view = computed(() => query.data.value as JobView)
const { attempt, wrong } = useAttempt()
const opened = provideJob(view, show, async () => {
  await query.refetch()
})
const stage = computed(() => route.path.split('/').pop() ?? 'survey')
const where = computed(() => [view.value.row.address, view.value.row.town].filter(Boolean).join(', '))
const railOpen = ref(false)
const keys = ref(false)
const command = ref(false)
const history = ref(false)

/** Goes to the stage and the field that a finding looked at. */
async function jump(f: Finding) {
  railOpen.value = false
  const field = f.fields?.[0] ?? f.stage
  const page = field.split('.')[0]
  const target = stages.includes(page as never) ? page : f.stage
  if (stage.value !== target) await router.push(`/jobs/${props.job}/${target}`)
  router.replace({ query: { field, point: f.point || undefined } })
}

watch(
  () => [route.query.field, route.query.point, query.isSuccess.value] as const,
  async ([field]) => {
    if (!field || !query.isSuccess.value) return
    for (let i = 0; i < 20; i++) {
      await nextTick()
      const el = document.querySelector<HTMLElement>(`[data-field="${CSS.escape(String(field))}"]`)
      if (el) {
        el.scrollIntoView({ block: 'center' })
        el.querySelector<HTMLElement>('input, select, button')?.focus({ preventScroll: true })
        el.classList.add('flash')
        window.setTimeout(() => el.classList.remove('flash'), 1600)
        return
      }
      await new Promise((r) => setTimeout(r, 50))
    }
  },
  { immediate: true },
)

provide(
  limitClashes,
  computed(() =>
    Object.fromEntries((view.value?.findings ?? []).flatMap((f) => (f.clash ? [[f.fields![0], f.clash]] : []))),
  ),
)
watchEffect(() => view.value && writeDays(view.value.book.practice.date))
onBeforeUnmount(writeDays)
useKeys({
  ...Object.fromEntries(stages.map((s, i) => [String(i + 1), () => router.push(`/jobs/${props.job}/${s}`)])),
  '/': () => router.push('/jobs'),
  '?': () => (keys.value = true),
  'ctrl+k': () => (command.value = true),
})
/** Takes into the design what a finding offers as its remedy. */
const take = (f: Finding, answer: string) =>
  attempt(async () =>
    opened.accept(
      await ask(
        client.POST('/api/jobs/{job}/take-over', {
          params: { path: { job: opened.id } },
          body: { rule: f.rule, point: f.point, answer },
        }),
      ),
    ),
  )
</script>

<template>
  <TopBar>
    <template v-if="view">
      <span class="job-name">
        <span class="mono">{{ view.row.number }}</span> <b>{{ where || view.row.customer || 'no address yet' }}</b>
      </span>
      <span class="edition" :title="view.book.notice">{{ view.book.name }}</span>
      <span v-if="view.row.sealed" class="edition sealed">sealed</span>
    </template>
  </TopBar>
  <EmptyState
    v-if="query.isError.value && !view"
    title="This job cannot be opened"
    :text="
      signal ? query.error.value?.message : 'It is not on this device. Open it once with signal, and it is carried.'
    "
  >
    <span class="row">
      <PushButton @click="query.refetch()">Try again</PushButton>
      <router-link class="btn plain" to="/jobs">All jobs</router-link>
    </span>
  </EmptyState>
  <div v-else-if="!view" class="opening" aria-busy="true"><div v-for="i in 7" :key="i" class="ghost" /></div>
  <div v-else class="frame">
    <JobSpine :job="job" :stage="stage" :bolts="view.spine" />
    <main class="stage">
      <StorageNotice v-if="stage === 'install' || stage === 'commission'" />
      <RefusedPart />
      <LaterPart>
        <router-view :key="job" />
        <p v-show="!growing" class="notice">
          Judged by {{ view.book.name }}. {{ view.book.notice }}
          <PushButton kind="word" @click="history = true">Who changed what</PushButton>
        </p>
      </LaterPart>
    </main>
    <VerdictRail
      v-model:open="railOpen"
      class="rail"
      :findings="view.findings"
      :device="!!view.device"
      :stage="stage"
      :wrong="wrong"
      @jump="jump"
      @take="take"
      @override="
        (f, reason) => opened.log([{ kind: 'override', subject: f.rule, point: f.point || undefined, reason }])
      "
    />
  </div>
  <KeysDialog v-if="keys" v-model="keys" />
  <CommandDialog v-if="view && command" v-model="command" :job="job" @history="history = true" />
  <HistoryDialog v-if="history" v-model="history" :job="job" />
</template>

<style scoped>
.job-name {
  display: flex;
  gap: 10px;
  align-items: baseline;
  min-width: 0;
  overflow: hidden;
  white-space: nowrap;
}
.job-name b {
  font-size: 15px;
  font-weight: 600;
  overflow: hidden;
  text-overflow: ellipsis;
}
.edition {
  border: 1px solid #51606d;
  border-radius: 3px;
  padding: 2px 8px;
  font-size: 12.5px;
  color: #d8d3c8;
  white-space: nowrap;
}
.sealed {
  border-color: #5fbfa6;
  color: #8fd8c4;
}
.frame {
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr) 316px;
  min-height: calc(100vh - 56px);
}
.stage {
  padding: 18px 22px 60px;
  min-width: 0;
}
.notice {
  color: var(--slate);
  font-size: 12.5px;
  margin-top: 28px;
  max-width: 80ch;
}
.opening {
  padding: 40px;
}
.ghost {
  height: 28px;
  margin: 14px 0;
  background: var(--band);
  border-radius: 3px;
}
@media (max-width: 1023px) {
  .frame {
    grid-template-columns: 92px minmax(0, 1fr);
  }
}
@media (max-width: 719px) {
  .frame {
    display: flex;
    flex-direction: column;
  }
  .stage {
    padding: 12px 14px 80px;
  }
  .edition {
    display: none;
  }
}
</style>
