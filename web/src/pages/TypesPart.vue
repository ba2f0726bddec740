<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ask, client, fileBody } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useMe } from '@/composables/useMe'
import FileButton from '@/kit/FileButton.vue'
import FieldGroup from '@/kit/FieldGroup.vue'

/** The firm's own charger types, read from makers' sheets into the published format. */
const { may } = useMe()
const queries = useQueryClient()
const types = useQuery({ queryKey: ['charger-types'], queryFn: () => ask(client.GET('/api/charger-types')) })
const { attempt, told } = useAttempt()
function read(file: File) {
  let count = 0
  const take = async () => {
    const body = fileBody(await file.text(), 'application/octet-stream')
    count = (await ask(client.PUT('/api/charger-types', body))).length
    await queries.invalidateQueries()
  }
  return attempt(take, () => `Read in from ${file.name}: ${count}.`, `${file.name}: nothing was taken. `)
}
</script>

<template>
  <FieldGroup title="Our own charger types">
    <template #below>
      <p v-if="told" role="status" class="said">{{ told }}</p>
      <p v-for="t in types.data.value" :key="t.id" class="row">
        <b>{{ t.charger.type }}</b>
        <span class="quiet">{{ t.charger.rating }} A, by {{ t.setting.kind }}; {{ t.source }}</span>
      </p>
      <p v-if="!types.data.value?.length" class="quiet">
        None yet: only the made-up samples are offered. The format is published:
        <a href="api/formats/charger.schema.json">charger.schema.json</a>.
      </p>
      <FileButton v-if="may('change the firm\'s data')" plain accept=".json,application/json" @chosen="read">
        Read in charger types
      </FileButton>
    </template>
  </FieldGroup>
</template>

<style scoped>
.said {
  font-weight: 600;
}
p.row {
  margin: 6px 0;
}
</style>
