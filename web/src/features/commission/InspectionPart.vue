<script setup lang="ts">
import { computed } from 'vue'
import type { Entry, Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useGradually } from '@/composables/useGradually'
import { useJob } from '@/composables/useJob'
import PushButton from '@/kit/PushButton.vue'
import InspectionRow from './InspectionRow.vue'
import { inspectionText } from '../options'

/** The schedule of inspections: what the job knows is confirmed at once, past the rest one walks. */
defineProps<{ off: boolean }>()
const opened = useJob()
const { attempt, wrong, busy } = useAttempt()
const offers = computed(() => new Map((opened.view.offers ?? []).map((o) => [o.item, o])))
const answers = computed(() => {
  const latest = new Map<string, Entry>()
  for (const e of opened.standing) if (e.kind === 'inspection') latest.set(e.subject!, e)
  return latest
})
/** What the work does not touch is not asked, unless somebody looked at it all the same. */
const items = computed(() =>
  opened.view.book.practice.inspections.filter((i) => !offers.value.get(i.id)?.spared || answers.value.has(i.id)),
)
/** What the job knows and nobody has answered. */
const known = computed(() =>
  items.value
    .filter((i) => !answers.value.has(i.id) && offers.value.has(i.id))
    .map((i) => ({ item: i, offer: offers.value.get(i.id)! })),
)
interface Line {
  item: Schemas['Asked']
  answer?: Entry
  offer?: Schemas['Offer']
}
// What has not changed stays the same object: its row is not drawn again.
const lines = computed<Line[]>((before) =>
  items.value.map((item, n) => {
    const was = before?.[n]
    const answer = answers.value.get(item.id)
    const offer = offers.value.get(item.id)
    return was &&
      was.item === item &&
      was.answer === answer &&
      was.offer?.value === offer?.value &&
      was.offer?.why === offer?.why
      ? was
      : { item, answer, offer }
  }),
)
const drawn = useGradually(lines, 6)
const parts = computed(() => {
  const out: { title: string; lines: Line[]; open: number }[] = []
  for (const l of drawn.value) {
    if (out.at(-1)?.title !== l.item.part) out.push({ title: l.item.part, lines: [], open: 0 })
    const part = out.at(-1)!
    part.lines.push(l)
    if (!l.answer) part.open++
  }
  return out
})
const done = computed(() => items.value.filter((i) => answers.value.has(i.id)).length)
const finding = computed(() => opened.view.findings.find((f) => f.rule === 'inspected'))

const entry = (item: string, value: string, words: string): Partial<Entry> => ({
  kind: 'inspection',
  subject: item,
  value,
  reason: words || undefined,
  replaces: answers.value.get(item)?.id,
})
const answer = (item: Schemas['Asked'], value: string, words: string) => opened.log([entry(item.id, value, words)])
const confirm = () =>
  attempt(() =>
    opened.log(
      known.value.map(({ item, offer }) =>
        entry(item.id, offer.value, offer.value === 'as-it-should-be' ? '' : (offer.why ?? '')),
      ),
    ),
  )
</script>

<template>
  <section v-if="items.length" class="inspections" aria-labelledby="inspections" data-field="commission.inspections">
    <h2 id="inspections" class="banded">
      {{ opened.view.book.practice.schedule }}
      <span class="count" data-inspected>{{ done }} of {{ items.length }}</span>
    </h2>
    <p v-if="finding?.missing && done === items.length" class="again" role="status">{{ finding.missing }}</p>
    <div v-if="known.length && !off" class="known">
      <p><b>Known from this job</b>, to be confirmed by who has looked. What is otherwise is answered below.</p>
      <ul>
        <li v-for="k in known" :key="k.item.id">
          {{ k.item.title }}: <b>{{ inspectionText(k.offer.value) }}</b>
          <span v-if="k.offer.why" class="quiet why">{{ k.offer.why }}</span>
        </li>
      </ul>
      <PushButton kind="main" :disabled="busy" data-confirm-known @click="confirm">
        Confirm {{ known.length }} {{ known.length === 1 ? 'item' : 'items' }}
      </PushButton>
      <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
    </div>
    <details v-for="p in parts" :key="p.title" :open="p.open > 0" :data-part="p.title">
      <summary>
        {{ p.title }} <span class="count">{{ p.open ? `${p.open} open` : 'all answered' }}</span>
      </summary>
      <InspectionRow v-for="l in p.lines" :key="l.item.id" v-bind="l" :off="off" :commit="answer" />
    </details>
  </section>
</template>

<style scoped>
.count {
  color: var(--slate);
  font-weight: 400;
  margin-left: 8px;
}
.known {
  padding: 10px 8px;
  border-bottom: 1px solid var(--line);
}
ul {
  margin: 6px 0 12px;
  padding-left: 18px;
  columns: 2 300px;
  font-size: 13px;
}
li {
  break-inside: avoid;
}
.why {
  display: block;
}
summary {
  display: flex;
  align-items: center;
  min-height: var(--tap);
  padding: 0 8px;
  cursor: pointer;
  font-weight: 600;
  border-bottom: 1px solid var(--line);
}
.again {
  padding: 8px;
  border-left: 4px solid var(--watch);
}
</style>
