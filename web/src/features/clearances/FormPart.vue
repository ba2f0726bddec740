<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useJob } from '@/composables/useJob'
import DateField from '@/kit/DateField.vue'
import FileButton from '@/kit/FileButton.vue'
import { dayText } from '@/kit/dates'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import { useFiles } from './useFiles'

/** The form of a paper: filled by the job, the rest entered here, its files, its signature, and what it would bounce for. */
const props = defineProps<{ check: Schemas['Check']; index: number; mail?: boolean; bar?: Schemas['Span'] }>()
const paper = defineModel<Schemas['Paper']>({ required: true })
const emit = defineEmits<{ send: [anyway: string] }>()
const opened = useJob()
const { wrong, keep, make } = useFiles()
const anyway = ref('')
const entered = computed(() => props.check.fields.filter((f) => !f.from))
const given = computed(() => props.check.fields.filter((f) => f.from))
const lackOf = (field: string) => props.check.lacks.find((l) => l.field === field)
const url = (kind: string) => `api/jobs/${opened.id}/papers/${paper.value.id}/form/${kind}`
/** The day that it was sent on and is not answered since, after the seal too. */
const waiting = computed(() =>
  props.bar && ['waiting', 'overdue'].includes(props.bar.state)
    ? props.bar.from
    : !paper.value.granted && paper.value.sent,
)
const answer = (id: string) => paper.value.answers?.[id] ?? ''
function enter(id: string, v?: string) {
  paper.value.answers = { ...paper.value.answers, [id]: v ?? '' }
}
const signedOn = computed({
  get: () => paper.value.signedOn,
  set: (v?: string) => (paper.value.signedOn = v || undefined),
})
const attach = async (kind: string, file: File) => put(kind, await keep(file))
/** What the program prints of the job goes with it. */
const print = async (kind: string) => put(kind, await make())
function put(kind: string, f?: Schemas['FileFacts']) {
  if (!f) return
  const others = (paper.value.attached ?? []).filter((a) => a.kind !== kind)
  paper.value.attached = [...others, { kind, digest: f.digest, name: f.name }]
}
</script>

<template>
  <section class="form" :data-form="check.form">
    <header class="row">
      <VerdictMark :verdict="check.lacks.length ? 'stop' : 'sound'" />
      <h3>
        {{ check.lacks.length ? `Would bounce for ${check.lacks.length}` : 'Nothing that it would bounce for' }}
      </h3>
      <span class="quiet">{{ check.title }}</span>
    </header>
    <ul v-if="check.lacks.length" class="lacks" data-lacks>
      <li v-for="l in check.lacks" :key="l.field + l.what">
        <b>{{ l.what }}</b> <span class="quiet">{{ l.remedy }}</span>
      </li>
    </ul>
    <div class="fields">
      <component
        :is="f.kind === 'date' ? DateField : TextField"
        v-for="f in entered"
        :key="f.id"
        :model-value="answer(f.id)"
        :name="`form.${check.form}.${f.id}`"
        :label="f.label"
        :hint="f.hint"
        :error="answer(f.id) ? lackOf(`answers.${f.id}`)?.what : ''"
        @update:model-value="(v?: string) => enter(f.id, v)"
      />
    </div>
    <details>
      <summary>{{ given.length }} answers that the job gives itself</summary>
      <dl>
        <template v-for="f in given" :key="f.id">
          <dt>{{ f.label }}</dt>
          <dd :class="{ lacking: lackOf(f.from ?? '') }">{{ f.value || 'missing' }}</dd>
        </template>
      </dl>
    </details>
    <table>
      <tbody>
        <tr v-for="(e, i) in check.enclosed" :key="e.kind" :data-enclosed="e.kind">
          <td class="mono">{{ i + 1 }}</td>
          <td>{{ e.title }}<span v-if="!e.needed" class="quiet">, where there is one</span></td>
          <td>
            <a v-if="e.digest" :href="`api/jobs/${opened.id}/files/${e.digest}`">{{ e.name || 'file' }}</a>
            <span v-if="e.photo" class="quiet"> of the survey</span>
            <span v-if="!e.digest" class="quiet">not there</span>
            <b v-if="e.digest && lackOf(`attached.${e.kind}`)" class="lacking">
              {{ lackOf(`attached.${e.kind}`)?.what }}</b
            >
          </td>
          <td class="right">
            <PushButton v-if="e.made" kind="plain" :data-made="e.kind" @click="print(e.kind)">
              {{ e.digest ? 'Print anew' : 'Print it of this job' }}
            </PushButton>
            <FileButton plain accept=".pdf,.jpg,.jpeg,.png" @chosen="(f: File) => attach(e.kind, f)">
              {{ e.digest ? 'Replace' : 'Add' }}
            </FileButton>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="wrong" class="lacking" role="alert">{{ wrong }}</p>
    <template v-if="check.declared">
      <p class="declared">“{{ check.declared }}”</p>
      <div class="fields">
        <TextField
          v-model="paper.signedBy"
          :name="`form.${check.form}.signedBy`"
          :label="check.signer ? `Signed by (${check.signer})` : 'Signed by'"
        />
        <DateField v-model="signedOn" :name="`form.${check.form}.signedOn`" label="Signed on" />
      </div>
    </template>
    <footer class="row">
      <a class="btn plain" :href="url('zip')">Package</a>
      <a class="btn plain" :href="url('pdf')">PDF</a>
      <a class="btn plain" :href="url('json')">JSON</a>
      <a class="btn plain" :href="url('csv')">CSV</a>
      <span class="grow" />
      <template v-if="mail && !waiting && bar?.state !== 'answered'">
        <TextField
          v-if="check.lacks.length"
          v-model="anyway"
          :name="`form.${check.form}.anyway`"
          label="Why it is sent all the same"
        />
        <PushButton :class="{ main: !check.lacks.length }" @click="emit('send', anyway)">
          {{ check.lacks.length ? 'Send all the same' : 'Send' }}
        </PushButton>
      </template>
      <span v-else-if="waiting" class="quiet">sent {{ dayText(waiting) }} to {{ check.to }}</span>
    </footer>
  </section>
</template>

<style scoped>
.form {
  margin-top: 14px;
  padding-top: 12px;
  border-top: 1px solid var(--line);
}
h3 {
  margin: 0;
  font-size: 14px;
  color: var(--ink);
}
.lacks {
  margin: 6px 0 0;
  padding-left: 18px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 12px 16px;
  margin-top: 10px;
}
details {
  margin: 10px 0;
  font-size: 13px;
}
summary {
  cursor: pointer;
  color: var(--ink2);
}
dl {
  display: grid;
  grid-template-columns: minmax(160px, 1fr) 2fr;
  gap: 2px 12px;
  margin: 6px 0;
}
dt {
  color: var(--slate);
}
dd {
  margin: 0;
}
.lacking {
  color: var(--stop);
  font-weight: 600;
}
.declared {
  margin-top: 10px;
  font-size: 13px;
  color: var(--ink2);
  max-width: 80ch;
}
footer {
  margin-top: 12px;
  align-items: end;
}
</style>
