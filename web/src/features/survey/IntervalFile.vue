<script setup lang="ts">
import { ref } from 'vue'
import { ask, client, fileBody, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import FileButton from '@/kit/FileButton.vue'
import { useJob } from '@/composables/useJob'
import { momentText } from '@/kit/dates'

/** Reads a meter's interval data and takes the highest demand and the length of the record over. */
const supply = defineModel<Schemas['Supply']>({ required: true })
const opened = useJob()
const found = ref<Schemas['Interval']>()
const { attempt, wrong } = useAttempt()

function read(file: File) {
  found.value = undefined
  const take = async () => {
    const body = fileBody(await file.text(), 'text/csv')
    found.value = await ask(client.POST('/api/jobs/{job}/interval', { params: { path: { job: opened.id } }, ...body }))
    supply.value.peakDemand = Math.round(found.value.peak * 10) / 10
    supply.value.peakDays = found.value.days
    const length = found.value.minutes
    supply.value.peakMinutes = length === 15 || length === 30 || length === 60 ? length : undefined
    supply.value.profile = found.value.day
  }
  return attempt(take, '', `${file.name}: nothing was taken. `)
}
</script>

<template>
  <div class="interval" data-field="survey.supply.interval">
    <FileButton plain accept=".csv,text/csv" @chosen="read">Read the meter's interval data</FileButton>
    <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
    <p v-if="found" class="quiet" role="status">
      {{ found.rows }} rows of {{ found.minutes }} minutes over {{ found.days }} days; highest
      <span class="mono">{{ found.peak.toFixed(1) }} A</span> on {{ momentText(found.peakAt) }};
      {{
        found.day?.length
          ? 'its day is kept for the night plot; '
          : 'its day has a gap, so the night plot keeps to habits; '
      }}{{
        found.gaps.length ? `${found.gaps.length} gaps, the first from ${momentText(found.gaps[0].from)}` : 'no gaps'
      }}
    </p>
  </div>
</template>

<style scoped>
.interval {
  margin-top: 12px;
}
.error {
  color: var(--stop);
  font-weight: 600;
  white-space: pre-line;
}
</style>
