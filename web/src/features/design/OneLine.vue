<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { ask, client, type Schemas, type Verdict } from '@/api/client'
import { useJob } from '@/composables/useJob'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'

/** The circuit from the supply to the charger, and the way in: each element has its verdict, and a press leads to its fields. */
const props = defineProps<{ point: string }>()
const opened = useJob()
const router = useRouter()
const drawing = useQuery({
  queryKey: computed(() => [
    'one-line',
    opened.id,
    props.point,
    opened.view.revisions.design,
    opened.view.revisions.survey,
  ]),
  queryFn: () =>
    ask(
      client.GET('/api/jobs/{job}/points/{point}/one-line', {
        params: { path: { job: opened.id, point: props.point } },
      }),
    ),
  placeholderData: keepPreviousData,
})
const order: Verdict[] = ['stop', 'open', 'watch', 'sound']
/** What is said of an element: the worst of the findings that look at its fields, with its value and limit. */
function said(part: Schemas['Element']) {
  const all = opened.view.findings.filter(
    (f) =>
      (!f.point || f.point === props.point) &&
      f.fields?.some((field) => part.fields?.some((begin) => field.startsWith(begin))),
  )
  const worst = order.map((v) => all.find((f) => f.verdict === v)).find(Boolean)
  const why =
    worst && worst.verdict !== 'sound' ? [worst.title, worst.value, worst.limit].filter(Boolean).join(', ') : ''
  return { verdict: worst?.verdict, why }
}
const parts = computed(() => drawing.data.value?.parts?.map((p) => ({ ...p, ...said(p) })) ?? [])
const share = (v: number, of: number) => `${(100 * v) / of}%`
const lead = (part: Schemas['Element']) =>
  router.push({
    path: `/jobs/${opened.id}/${part.field.split('.')[0]}`,
    query: { field: part.field, point: props.point },
  })
</script>

<template>
  <figure class="card one-line">
    <figcaption class="quiet">One-line diagram: press an element</figcaption>
    <div v-if="drawing.data.value" class="plot">
      <!-- The server draws it from the job and escapes every text. -->
      <!-- eslint-disable-next-line vue/no-v-html -->
      <div v-html="drawing.data.value.svg" />
      <PushButton
        v-for="p in parts"
        :key="p.id"
        kind="own"
        class="part"
        :data-part="p.id"
        :aria-label="[p.title, p.why].filter(Boolean).join(': ')"
        :title="p.why || undefined"
        :style="{
          left: share(p.x, drawing.data.value.width),
          top: share(p.y, drawing.data.value.height),
          width: share(p.width, drawing.data.value.width),
          height: share(p.height, drawing.data.value.height),
        }"
        @click="lead(p)"
      >
        <VerdictMark v-if="p.verdict" :verdict="p.verdict" :size="16" />
      </PushButton>
    </div>
    <p v-else-if="drawing.isError.value" class="quiet">cannot be drawn: {{ drawing.error.value?.message }}</p>
  </figure>
</template>

<style scoped>
.one-line {
  margin: 12px 0 0;
}
figcaption {
  font-size: 12.5px;
  font-weight: 600;
}
.plot {
  position: relative;
  max-width: 420px;
}
.part {
  position: absolute;
  display: flex;
  align-items: center;
  justify-content: flex-start;
  border-radius: 3px;
}
.part:hover {
  outline: 1px solid var(--copper);
}
</style>
