<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client, type Entry } from '@/api/client'
import { useJob } from '@/composables/useJob'
import LineField from '@/kit/LineField.vue'
import ListField from '@/kit/ListField.vue'
import PushButton from '@/kit/PushButton.vue'
import TakeBack from '../TakeBack.vue'
import MakerSheet from './MakerSheet.vue'

/** The amps that were set, and how they are locked. */
const props = defineProps<{ point: string; off: boolean; locks: string[] }>()
const emit = defineEmits<{ write: [Partial<Entry>[]] }>()
const opened = useJob()
const amps = ref('')
const lock = ref<string>()
const latest = (subject: string) =>
  opened.standing.findLast((e) => e.kind === 'setting' && e.subject === subject && e.point === props.point)
const sheet = useQuery({
  queryKey: computed(() => ['setting', opened.id, props.point, opened.view.revisions]),
  queryFn: () =>
    ask(
      client.GET('/api/jobs/{job}/points/{point}/setting', {
        params: { path: { job: opened.id, point: props.point } },
      }),
    ),
})
const design = computed(() => opened.view.job.design?.circuits?.find((c) => c.point === props.point)?.setting)
const write = (subject: string, value: string, unit?: string) =>
  emit('write', [{ kind: 'setting', subject, point: props.point, value, unit, replaces: latest(subject)?.id }])
</script>

<template>
  <div class="settings">
    <MakerSheet v-if="sheet.data.value?.known" :sheet="sheet.data.value" />
    <form @submit.prevent="write('amps', amps, 'A')">
      <label>
        Set to, A <span class="quiet">design {{ design ?? 'not chosen' }} A</span>
        <span v-if="latest('amps')" class="mono">now {{ latest('amps')!.value }} A</span>
        <LineField v-model="amps" mono inputmode="decimal" :disabled="off" data-setting="amps" />
      </label>
      <PushButton type="submit" :disabled="off || !amps.trim()">Record</PushButton>
    </form>
    <TakeBack v-if="latest('amps')" :entry="latest('amps')!" :off="off" />
    <form @submit.prevent="write('locked', lock!)">
      <label>
        How it is locked
        <span v-if="latest('locked')" class="mono">now: {{ latest('locked')!.value }}</span>
        <ListField
          v-model="lock"
          :options="locks.map((l) => ({ value: l, text: l }))"
          empty="choose"
          :disabled="off"
          data-setting="locked"
        />
      </label>
      <PushButton type="submit" :disabled="off || !lock">Record</PushButton>
    </form>
    <TakeBack v-if="latest('locked')" :entry="latest('locked')!" :off="off" />
  </div>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
  padding: 4px 0;
}
label {
  display: grid;
}
</style>
