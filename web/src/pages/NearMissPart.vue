<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client } from '@/api/client'
import { useMe } from '@/composables/useMe'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import { dayText } from '@/kit/dates'

/** What happened, or nearly, over all jobs: without names, unless the office asks. */
const { may } = useMe()
const named = ref(false)
const list = useQuery({
  queryKey: computed(() => ['near-misses', named.value]),
  refetchOnMount: 'always',
  queryFn: () => ask(client.GET('/api/near-misses', { params: { query: { named: named.value } } })),
})
</script>

<template>
  <FieldGroup title="Near misses">
    <template v-if="may('manage people')" #actions>
      <PushButton kind="plain" :aria-pressed="named" @click="named = !named">
        {{ named ? 'Without names' : 'With names' }}
      </PushButton>
    </template>
    <template #below>
      <p v-if="!list.data.value?.list.length" class="quiet">None is written down. That is rarely the whole truth.</p>
      <table v-else>
        <tbody>
          <tr v-for="(m, i) in list.data.value.list" :key="i">
            <td class="mono day">{{ dayText(m.day) }}</td>
            <td>{{ m.words }}</td>
            <td class="quiet">{{ [m.town, m.number, m.by].filter(Boolean).join(', ') }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </FieldGroup>
</template>

<style scoped>
.day {
  white-space: nowrap;
}
</style>
