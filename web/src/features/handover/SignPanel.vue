<script setup lang="ts">
import type { Entry } from '@/api/client'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import { momentText } from '@/kit/dates'

/** Who schedules, and who signs for what. */
defineProps<{ busy: boolean }>()
const emit = defineEmits<{ write: [Partial<Entry>[]] }>()
const opened = useJob()
const { may, me } = useMe()
const signed = (role: string) => opened.standing.findLast((e) => e.kind === 'signoff' && e.subject === role)
const scheduler = (point: string) =>
  opened.standing.findLast((e) => e.kind === 'setting' && e.subject === 'scheduler' && e.point === point)
const choose = (point: string, value: string) =>
  emit('write', [{ kind: 'setting', subject: 'scheduler', point, value, replaces: scheduler(point)?.id }])
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
    <div v-for="p in opened.view.job.survey?.places ?? []" :key="p.point" data-field="handover.scheduler">
      <p class="label">Who decides when point {{ p.point }} charges? One, not both.</p>
      <span class="row">
        <PushButton
          kind="plain"
          v-for="v in ['car', 'charger']"
          :key="v"
          :class="{ on: scheduler(p.point)?.value === v }"
          :aria-pressed="scheduler(p.point)?.value === v"
          :disabled="busy || !may('write the log')"
          :data-scheduler="v"
          @click="choose(p.point, v)"
        >
          the {{ v }}
        </PushButton>
      </span>
    </div>
    <div v-for="r in roles" :key="r.id" :data-field="`handover.${r.id}`">
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
