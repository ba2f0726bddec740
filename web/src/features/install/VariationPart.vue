<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { ask, client, type Entry, type Verdict } from '@/api/client'
import { useJob } from '@/composables/useJob'
import ChoiceField from '@/kit/ChoiceField.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import TakeBack from '../TakeBack.vue'

/** What was built otherwise than designed: beside the design, and what it changed in the verdicts. */
const props = defineProps<{ off: boolean; want?: { point: string; subject: string } }>()
const emit = defineEmits<{ write: [Partial<Entry>[]] }>()
const opened = useJob()
const open = ref(false)
const point = ref<string | undefined>(opened.view.job.survey?.places?.[0]?.point)
const subject = ref<string>()
const value = ref('')
const part = useTemplateRef('part')
const reason = ref('')
// A step that was built otherwise leads here with what it is about.
watch(
  () => props.want,
  (a) => {
    if (!a) return
    if (a.point) point.value = a.point
    subject.value = a.subject
    open.value = true
    void nextTick(() => part.value?.scrollIntoView({ block: 'center' }))
  },
)
const built = useQuery({
  queryKey: computed(() => ['as-built', opened.id, opened.view.revisions, opened.view.job.log?.length]),
  queryFn: () => ask(client.GET('/api/jobs/{job}/as-built', { params: { path: { job: opened.id } } })),
})
const points = computed(() =>
  (opened.view.job.survey?.places ?? []).map((p) => ({
    value: p.point,
    text: [p.point, p.name].filter(Boolean).join(', '),
  })),
)
const kinds = computed(() => (built.data.value?.kinds ?? []).map((k) => ({ value: k.id, text: k.title })))
const kind = computed(() => built.data.value?.kinds.find((k) => k.id === subject.value))
const designed = computed(() => built.data.value?.designs[`${point.value} ${subject.value}`])
const entryOf = (r: { point: string; title: string }) => {
  const id = built.data.value?.kinds.find((k) => k.title === r.title)?.id
  return opened.standing.findLast((e) => e.kind === 'variation' && e.point === r.point && e.subject === id)
}
function write() {
  emit('write', [
    { kind: 'variation', point: point.value, subject: subject.value, value: value.value, reason: reason.value },
  ])
  value.value = ''
  reason.value = ''
  open.value = false
}
</script>

<template>
  <section ref="part" class="card part" data-field="install.variations">
    <header class="row">
      <h2>Built otherwise than designed</h2>
      <span class="grow" />
      <PushButton kind="plain" v-if="!off" @click="open = !open">
        {{ open ? 'Close' : 'Note a variation' }}
      </PushButton>
    </header>
    <form v-if="open" class="fields" @submit.prevent="write">
      <ChoiceField v-if="points.length > 1" v-model="point" name="variation.point" label="Point" :options="points" />
      <ChoiceField v-model="subject" name="variation.subject" label="What" :options="kinds" empty="choose" />
      <TextField
        v-model="value"
        name="variation.value"
        :label="kind?.unit ? `Built, ${kind.unit}` : 'Built'"
        :hint="designed ? `designed ${designed} ${kind?.unit ?? ''}` : ''"
      />
      <TextField v-model="reason" name="variation.reason" label="Why; your name and this are printed" wide />
      <PushButton type="submit" :disabled="!subject || !value.trim() || !reason.trim()"> Judge it as built </PushButton>
    </form>
    <p v-if="built.data.value && !built.data.value.rows.length" class="quiet">As designed, so far.</p>
    <table v-if="built.data.value?.rows.length">
      <thead>
        <tr>
          <th>Point</th>
          <th>What</th>
          <th class="right">Designed</th>
          <th class="right">Built</th>
          <th>Who and why</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in built.data.value.rows" :key="r.point + r.title" data-built>
          <td>{{ r.point }}</td>
          <td>{{ r.title }}</td>
          <td class="mono right">{{ r.designed }} {{ r.unit }}</td>
          <td class="mono right">{{ r.built }} {{ r.unit }}</td>
          <td>
            {{ r.by }}: {{ r.reason }}
            <TakeBack v-if="entryOf(r)" :entry="entryOf(r)!" :off="off" />
          </td>
        </tr>
      </tbody>
    </table>
    <ul v-if="built.data.value?.changes.length" class="changes">
      <li v-for="c in built.data.value.changes" :key="c.rule + c.point" :data-change="c.rule">
        <VerdictMark v-if="c.before" :verdict="c.before as Verdict" :size="16" />
        <span aria-label="became">→</span>
        <VerdictMark v-if="c.after" :verdict="c.after as Verdict" :size="16" />
        <span>
          <b>{{ c.title }}</b>
          <span class="working">{{ c.working }}</span>
          <span v-if="c.remedy" class="working">{{ c.remedy }}</span>
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.part {
  margin-top: 12px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 12px 16px;
  margin: 10px 0;
}
td.mono {
  white-space: nowrap;
}
.changes {
  list-style: none;
  padding: 0;
  margin: 10px 0 0;
}
.changes li {
  display: flex;
  gap: 6px;
  align-items: flex-start;
  padding: 5px 0;
}
.working {
  display: block;
  font-size: 12.5px;
  color: var(--slate);
}
</style>
