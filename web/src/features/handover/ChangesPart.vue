<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { ask, client } from '@/api/client'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'

/** What an open amendment changes of the issue that it is of, line by line. */
defineProps<{ busy: boolean }>()
const emit = defineEmits<{ drop: [] }>()
const opened = useJob()
const { may } = useMe()
const query = useQuery({
  queryKey: computed(() => ['changes', opened.id, opened.view.revisions, opened.view.job.log?.length]),
  queryFn: () => ask(client.GET('/api/jobs/{job}/changes', { params: { path: { job: opened.id } } })),
})
const found = query.data
</script>

<template>
  <FieldGroup v-if="found?.issue" :title="`What differs from issue ${found.issue}`" data-changes>
    <template #below>
      <table v-if="found.changes.length">
        <thead>
          <tr>
            <th>What</th>
            <th>Was</th>
            <th>Is</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(c, i) in found.changes" :key="i" :data-change="c.kind">
            <td data-title="what">{{ c.what }}</td>
            <td data-title="was">{{ c.was ?? 'not there' }}</td>
            <td data-title="is">{{ c.now ?? 'not there any more' }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="!found.amends" class="row">
        <span>
          {{ found.changes.length ? 'Signatures and papers alone are' : 'Nothing differs, and that is' }} no reason for
          a new issue.
        </span>
        <PushButton v-if="may('seal a record')" :disabled="busy" data-drop @click="emit('drop')">
          Close the amendment, issue {{ found.issue }} stands
        </PushButton>
      </p>
    </template>
  </FieldGroup>
</template>

<style scoped>
td {
  vertical-align: top;
  overflow-wrap: anywhere;
}
@media (max-width: 719px) {
  thead {
    display: none;
  }
  tr,
  td {
    display: block;
  }
  tr {
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
  }
  td {
    border: 0;
    padding: 1px 0;
  }
  td:not(:first-child)::before {
    content: attr(data-title) ' ';
    color: var(--slate);
  }
  td:first-child {
    font-weight: 600;
  }
}
</style>
