<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, reactive, ref, watchEffect } from 'vue'
import type { Entry, Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import { ask, client } from '@/api/client'
import { useDevice } from '@/composables/useDevice'
import { useJob } from '@/composables/useJob'
import LineField from '@/kit/LineField.vue'
import { dayText } from '@/kit/dates'
import PushButton from '@/kit/PushButton.vue'
import RefusedEntry from '../RefusedEntry.vue'
import TakeBack from '../TakeBack.vue'

/** Each terminal with its label's figure and the torque it got. Blank until the label is read. */
const props = defineProps<{ point: string; terminals: Schemas['Terminal'][]; off: boolean }>()
const emit = defineEmits<{ write: [Partial<Entry>[]] }>()
const opened = useJob()
const unit = useCountry().page.value.units.torque.symbol
const device = useDevice()
const second = ref('')
// The tool's calibration, as the firm's register has it.
const until = computed(() => opened.view.policy.instruments?.[device.driver.trim().toLowerCase()])
const late = computed(() => !!until.value && until.value < new Date().toISOString().slice(0, 10))
const target = reactive<Record<string, string>>({})
const value = reactive<Record<string, string>>({})
// The charger's own figure is on its maker's sheet; the board's is on its label only. It comes into no field that
// somebody was in: what they type would stand behind it.
const sheet = useQuery({
  queryKey: computed(() => ['setting', opened.id, props.point, opened.view.revisions]),
  queryFn: () =>
    ask(
      client.GET('/api/jobs/{job}/points/{point}/setting', {
        params: { path: { job: opened.id, point: props.point } },
      }),
    ),
  enabled: computed(() => !!props.terminals[0]?.id.startsWith('charger-')),
})
watchEffect(() => {
  const s = sheet.data.value
  if (
    s?.torque &&
    s.torqueUnit === unit &&
    opened.view.job.design?.circuits?.some((c) => c.connection === 'hard-wired')
  )
    for (const t of props.terminals) target[t.id] ??= String(s.torque)
})
const recorded = (id: string) =>
  opened.standing.findLast((e) => e.kind === 'torque' && e.subject === id && e.point === props.point)
/** The tool and the second person of a torque. */
const how = (id: string) => {
  const e = recorded(id)
  return [e?.instrument, e?.second && `seen by ${e.second}`].filter(Boolean).join(', ')
}
function record(id: string) {
  emit('write', [
    {
      kind: 'torque',
      subject: id,
      point: props.point,
      value: value[id],
      target: target[id],
      unit,
      instrument: device.driver.trim() || undefined,
      second: second.value.trim() || undefined,
      replaces: recorded(id)?.id,
    },
  ])
}
</script>

<template>
  <div class="torque">
    <p class="quiet">Torque of each terminal against its label, {{ unit }}</p>
    <div v-if="terminals.some((t) => !recorded(t.id))" class="tool">
      <label>
        torque driver
        <LineField v-model="device.driver" mono :disabled="off" data-driver placeholder="number" />
      </label>
      <label v-if="opened.view.policy.secondPerson">
        second person
        <LineField v-model="second" :disabled="off" data-second placeholder="name" />
      </label>
      <span v-if="until" :class="late ? 'late' : 'quiet'">
        {{ late ? '× calibration ended' : 'in calibration until' }} {{ dayText(until!) }}
      </span>
    </div>
    <template v-for="t in terminals" :key="t.id">
      <form class="terminal" :data-terminal="t.id" @submit.prevent="record(t.id)">
        <span>{{ t.title }}</span>
        <template v-if="recorded(t.id)">
          <span class="mono">
            {{ recorded(t.id)!.value }} of {{ recorded(t.id)!.target }} {{ unit }}
            <span class="quiet">{{ how(t.id) }}</span>
          </span>
          <b aria-label="recorded">✓</b>
        </template>
        <template v-else>
          <LineField
            v-model="target[t.id]"
            mono
            inputmode="decimal"
            :disabled="off"
            placeholder="label"
            data-label
            :label="`${t.title}, label`"
            @focus="target[t.id] ??= ''"
          />
          <LineField
            v-model="value[t.id]"
            mono
            inputmode="decimal"
            :disabled="off"
            placeholder="got"
            data-got
            :label="`${t.title}, torque`"
          />
          <PushButton type="submit" :disabled="off || !target[t.id] || !value[t.id]">Record</PushButton>
        </template>
        <RefusedEntry :subject="t.id" :point="point" />
      </form>
      <TakeBack v-if="recorded(t.id)" :entry="recorded(t.id)!" :off="off" />
    </template>
  </div>
</template>

<style scoped>
.tool {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: end;
  font-size: 13px;
}
.tool .v-input {
  width: 170px;
}
.late {
  color: var(--stop);
  font-weight: 600;
}
.terminal {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 76px 76px auto;
  gap: 8px;
  align-items: center;
  padding: 4px 0;
}
.terminal .mono:not(.v-input) {
  grid-column: 2 / 4;
}
</style>
