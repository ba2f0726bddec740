<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { ask, client } from '@/api/client'
import { useJob } from '@/composables/useJob'

const props = defineProps<{ point: string }>()
const opened = useJob()
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
</script>

<template>
  <figure class="card one-line">
    <figcaption class="quiet">One-line diagram</figcaption>
    <!-- The server draws it from the job and escapes every text. -->
    <!-- eslint-disable-next-line vue/no-v-html -->
    <div v-if="drawing.data.value" v-html="drawing.data.value.svg" />
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
</style>
