<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { ask, client } from '@/api/client'
import PushButton from '@/kit/PushButton.vue'
import { momentText } from '@/kit/dates'

/** Who changed what on a job, newest first. */
const props = defineProps<{ job: string }>()
const open = defineModel<boolean>()
const audit = useQuery({
  queryKey: computed(() => ['audit', props.job]),
  queryFn: () => ask(client.GET('/api/jobs/{job}/audit', { params: { path: { job: props.job } } })),
  staleTime: 0,
})
</script>

<template>
  <v-dialog v-model="open" max-width="640" scrollable aria-label="Who changed what">
    <div class="card history">
      <h1>Who changed what</h1>
      <p v-if="audit.isPending.value" class="quiet">reading…</p>
      <p v-else-if="audit.isError.value" class="quiet">{{ audit.error.value?.message }}</p>
      <table v-else>
        <tbody>
          <tr v-for="(a, i) in audit.data.value" :key="i">
            <td class="mono when">{{ momentText(a.at) }}</td>
            <td>{{ a.who }}</td>
            <td>{{ a.action }}</td>
            <td class="quiet">{{ a.detail }}</td>
          </tr>
        </tbody>
      </table>
      <PushButton kind="plain" @click="open = false">Close</PushButton>
    </div>
  </v-dialog>
</template>

<style scoped>
.history {
  max-height: 80vh;
  overflow: auto;
}
.when {
  white-space: nowrap;
}
.btn {
  margin-top: 10px;
}
</style>
