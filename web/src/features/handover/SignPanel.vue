<script setup lang="ts">
import { computed } from 'vue'
import type { Entry } from '@/api/client'
import words from '@/api/words.json'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import FieldGroup from '@/kit/FieldGroup.vue'
import PressBars from '@/kit/PressBars.vue'
import PushButton from '@/kit/PushButton.vue'
import { momentText } from '@/kit/dates'

/** Who schedules, and who signs for what. */
defineProps<{ busy: boolean }>()
const emit = defineEmits<{ write: [Partial<Entry>[]] }>()
const opened = useJob()
const { may, me } = useMe()
/** A point without a charger agrees on nothing. */
const charging = computed(
  () =>
    opened.view.job.survey?.places?.filter(
      (p) => !['removal', 'outlet', 'sub-main'].includes(opened.view.kinds[p.point]!),
    ) ?? [],
)
/** A role signs where the rules ask for it. */
const asked = (role: string) => opened.view.findings.some((f) => f.rule === `signed-${role}`)
const signed = (role: string) => opened.standing.findLast((e) => e.kind === 'signoff' && e.subject === role)
/** What is agreed with the customer: the first is asked for the seal, the others stand in their pack. */
const questions = [
  { subject: 'scheduler', ask: 'Who decides when point {} charges? One, not both.', answers: words.scheduler },
  { subject: 'access', ask: 'Who may start point {}?', answers: words.access },
  { subject: 'account', ask: 'Whose is the account of the app of point {}?', answers: words.account },
]
const agreed = (subject: string, point: string) =>
  opened.standing.findLast((e) => e.kind === 'setting' && e.subject === subject && e.point === point)
const choose = (subject: string, point: string, value: string) =>
  emit('write', [{ kind: 'setting', subject, point, value, replaces: agreed(subject, point)?.id }])
/** A signature stands for as long as its finding is sound: a changed design asks for a new one. */
const stands = (role: string) => opened.view.findings.some((f) => f.rule === `signed-${role}` && f.verdict === 'sound')
const roles = [
  { id: 'design', title: 'Design', action: 'sign for the design' },
  { id: 'construction', title: 'Construction', action: 'sign for construction' },
  { id: 'testing', title: 'Inspection and testing', action: 'sign for construction' },
]
</script>

<template>
  <FieldGroup title="Scheduler and signatures">
    <template v-for="p in charging" :key="p.point">
      <div v-for="q in questions" :key="q.subject" :data-field="`handover.${q.subject}`">
        <p class="label">{{ q.ask.replace('{}', p.point) }}</p>
        <PressBars
          :label="q.ask.replace('{}', p.point)"
          :options="q.answers"
          :chosen="agreed(q.subject, p.point)?.value"
          :disabled="busy || !may('write the log')"
          @press="(value) => choose(q.subject, p.point, value)"
        />
      </div>
    </template>
    <div v-for="r in roles.filter((r) => asked(r.id))" :key="r.id" :data-field="`handover.${r.id}`">
      <p class="label">{{ r.title }}</p>
      <p v-if="stands(r.id) && signed(r.id)">{{ signed(r.id)!.by }}, {{ momentText(signed(r.id)!.at) }}</p>
      <template v-else>
        <p v-if="signed(r.id)" class="label">signed by {{ signed(r.id)!.by }}, and changed since</p>
        <PushButton
          :disabled="busy || !may(r.action)"
          :data-sign="r.id"
          @click="emit('write', [{ kind: 'signoff', subject: r.id }])"
        >
          Sign as {{ me?.name }}
        </PushButton>
      </template>
    </div>
  </FieldGroup>
</template>

<style scoped>
.label {
  font-size: 12.5px;
  color: var(--ink2);
  margin-bottom: 4px;
}
.on {
  border-color: var(--copper);
  background: var(--copper-soft);
  color: var(--ink);
}
</style>
