<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { ask, client, fileBody } from '@/api/client'
import { useMe } from '@/composables/useMe'
import FileButton from '@/kit/FileButton.vue'
import FieldGroup from '@/kit/FieldGroup.vue'

/** The forms of schemes and offices: data, so that the firm adds its own. */
const { may } = useMe()
const queries = useQueryClient()
const forms = useQuery({ queryKey: ['forms'], queryFn: () => ask(client.GET('/api/forms')) })
const said = ref('')
async function read(file: File) {
  said.value = ''
  try {
    queries.setQueryData(
      ['forms'],
      await ask(client.PUT('/api/forms', { ...fileBody(await file.text(), 'application/octet-stream') })),
    )
    said.value = `${file.name} is read in.`
  } catch (e) {
    said.value = (e as Error).message
  }
}
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
      <p v-if="said" role="status" class="said">{{ said }}</p>
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
