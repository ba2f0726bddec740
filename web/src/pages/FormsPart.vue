<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ask, client, fileBody } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useMe } from '@/composables/useMe'
import FileButton from '@/kit/FileButton.vue'
import FieldGroup from '@/kit/FieldGroup.vue'

/** The forms of schemes and offices: data, so that the firm adds its own. */
const { may } = useMe()
const queries = useQueryClient()
const forms = useQuery({ queryKey: ['forms'], queryFn: () => ask(client.GET('/api/forms')) })
const { attempt, told } = useAttempt()
const read = (file: File) =>
  attempt(async () => {
    const body = fileBody(await file.text(), 'application/octet-stream')
    queries.setQueryData(['forms'], await ask(client.PUT('/api/forms', body)))
  }, `${file.name} is read in.`)
</script>

<template>
  <FieldGroup title="Forms of schemes and offices">
    <template #actions>
      <a class="btn plain" href="api/formats/paper.schema.json">Schema</a>
      <FileButton v-if="may('change the firm\'s data')" plain accept=".json,application/json" @chosen="read"
        >Read in a form</FileButton
      >
    </template>
    <template #below>
      <p v-if="told" role="status" class="said">{{ told }}</p>
      <table>
        <tbody>
          <tr v-for="f in forms.data.value" :key="f.id">
            <td>{{ f.title }}</td>
            <td>{{ f.who }}</td>
            <td class="quiet">{{ f.fields.length }} fields, {{ f.attachments?.length ?? 0 }} files</td>
            <td class="quiet">{{ f.source }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </FieldGroup>
</template>

<style scoped>
.said {
  font-weight: 600;
  margin-top: 8px;
}
</style>
