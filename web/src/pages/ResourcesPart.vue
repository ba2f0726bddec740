<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useBooks } from '@/composables/useBooks'
import { useMe } from '@/composables/useMe'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import ResourceTable from './ResourceTable.vue'

/** What the firm works with: crews, instruments, registrations, ways, hours, zones. */
const { may } = useMe()
const off = computed(() => !may("change the firm's data"))
const queries = useQueryClient()
const resources = useQuery({ queryKey: ['resources'], queryFn: () => ask(client.GET('/api/firm/resources')) })
const books = useBooks()
const country = (id: string) => books.data.value?.find((b) => b.practice.id === id)?.country ?? id
const form = ref<Schemas['Resources']>()
const { attempt, told } = useAttempt()
watch(resources.data, (y) => y && (form.value = JSON.parse(JSON.stringify(y))), { immediate: true })
const words = (list: string[] | undefined) => (list ?? []).join(', ')
const list = (s: string) =>
  s
    .split(/[,;]\s*/)
    .map((w) => w.trim())
    .filter(Boolean)
async function save() {
  const put = () => ask(client.PUT('/api/firm/resources', { body: form.value! }))
  if (await attempt(put, 'Saved.')) queries.invalidateQueries()
}
</script>

<template>
  <form v-if="form" @submit.prevent="save">
    <FieldGroup title="Crews, instruments, registrations">
      <template #below>
        <ResourceTable
          title="Crews"
          :off="off"
          :columns="['Id', 'Name', 'Van', 'People, lead first', 'Rulebooks', 'Base', 'Days off']"
          :rows="
            form.crews.map((c) => [
              c.id,
              c.name,
              c.van ?? '',
              words(c.people),
              words(c.books),
              c.base ?? '',
              words(c.off),
            ])
          "
          @set="
            (i: number, r: string[]) =>
              (form!.crews[i] = {
                id: r[0],
                name: r[1],
                van: r[2],
                people: list(r[3]),
                books: list(r[4]),
                base: r[5],
                off: list(r[6]),
              })
          "
          @add="form!.crews.push({ id: '', name: '', people: [], books: [] })"
          @drop="(i: number) => form!.crews.splice(i, 1)"
        />
        <ResourceTable
          title="Instruments and torque tools"
          :off="off"
          :columns="['Number', 'What', 'Crew', 'Calibrated until']"
          :dates="[3]"
          :rows="form.instruments.map((t) => [t.id, t.what, t.crew ?? '', t.until])"
          @set="(i: number, r: string[]) => (form!.instruments[i] = { id: r[0], what: r[1], crew: r[2], until: r[3] })"
          @add="form!.instruments.push({ id: '', what: '', until: '' })"
          @drop="(i: number) => form!.instruments.splice(i, 1)"
        />
        <ResourceTable
          title="Registrations"
          :off="off"
          :columns="['Register', 'Number', 'From', 'Until']"
          :dates="[2, 3]"
          :rows="form.registrations.map((r) => [r.scheme, r.number, r.from, r.until])"
          @set="
            (i: number, r: string[]) =>
              (form!.registrations[i] = { scheme: r[0], number: r[1], from: r[2], until: r[3] })
          "
          @add="form!.registrations.push({ scheme: '', number: '', from: '', until: '' })"
          @drop="(i: number) => form!.registrations.splice(i, 1)"
        />
        <ResourceTable
          title="Ways, minutes"
          :off="off"
          :columns="['From', 'To', 'Minutes']"
          :rows="form.travel.map((t) => [t.from, t.to, String(t.minutes)])"
          @set="(i: number, r: string[]) => (form!.travel[i] = { from: r[0], to: r[1], minutes: Number(r[2]) || 0 })"
          @add="form!.travel.push({ from: '', to: '', minutes: 30 })"
          @drop="(i: number) => form!.travel.splice(i, 1)"
        />
        <fieldset class="fields" :disabled="off">
          <TextField v-model="form.hours.from" name="hours.from" label="Crews leave" type="time" />
          <TextField v-model="form.hours.to" name="hours.to" label="and are back" type="time" />
          <NumberField v-model="form.reelMargin" name="reelMargin" label="Should stay on a reel" unit="m" zero />
          <TextField
            v-for="(_, id) in form.zones"
            :key="id"
            v-model="form.zones[id]"
            :name="`zones.${id}`"
            :label="`Time zone, ${country(String(id))}`"
          />
        </fieldset>
        <p v-if="told" class="said" role="status">{{ told }}</p>
        <PushButton v-if="!off" type="submit">Save crews and instruments</PushButton>
      </template>
    </FieldGroup>
  </form>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(160px, 1fr));
  gap: 12px 16px;
  margin: 14px 0;
}
.said {
  font-weight: 600;
  margin-bottom: 8px;
}
</style>
