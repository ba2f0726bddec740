<script setup lang="ts">
import { inUnit } from '@/composables/useCountry'
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { ask, client, fileBody, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useBooks } from '@/composables/useBooks'
import { useMe } from '@/composables/useMe'
import CheckField from '@/kit/CheckField.vue'
import FileButton from '@/kit/FileButton.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import HabitFields from './HabitFields.vue'
import { photoKinds } from '@/features/options'

/** What the firm has settled: margins, photos, cost bands, and the price lists. */
const { may } = useMe()
const queries = useQueryClient()
const policy = useQuery({ queryKey: ['policy'], queryFn: () => ask(client.GET('/api/firm/policy')) })
const prices = useQuery({ queryKey: ['prices'], queryFn: () => ask(client.GET('/api/prices')) })
const form = ref<Schemas['Policy']>()
const { attempt: attempted, wrong, done } = useAttempt()
watch(
  policy.data,
  (h) => {
    if (!h) return
    form.value = JSON.parse(JSON.stringify(h)) as typeof h
    // A firm that settled its costs before there were prices of a point has none.
    form.value.habits ??= {}
    for (const id of Object.keys(form.value.costs)) form.value.habits[id] ??= {}
    for (const c of Object.values(form.value.costs))
      for (const b of ['point', 'metre'] as const) c[b] ??= { low: 0, high: 0 }
  },
  { immediate: true },
)
const bands = [
  ['sensor', 'Load management'],
  ['switch', 'Priority switch'],
  ['upgrade', 'Larger service'],
  ['wait', 'Wait for it, weeks'],
  ['point', 'New point, short plain route'],
  ['metre', 'Each metre of cable beyond it'],
] as const
const books = useBooks()
const countries = computed(() =>
  (books.data.value ?? [])
    .map((b) => b.practice)
    .filter((c, i, all) => form.value?.costs[c.id] && all.findIndex((o) => o.id === c.id) === i),
)

const booksOf = (id: string) => (books.data.value ?? []).filter((b) => b.practice.id === id).map((b) => b.id)

async function attempt(what: () => Promise<unknown>, words: string) {
  if (await attempted(what, words)) queries.invalidateQueries()
}
const save = () => attempt(() => ask(client.PUT('/api/firm/policy', { body: form.value! })), 'The policy is saved.')
const read = (file: File) =>
  attempt(async () => {
    const lists = await ask(client.PUT('/api/prices', { ...fileBody(await file.text(), 'text/csv') }))
    queries.setQueryData(['prices'], lists)
  }, `${file.name} is read in.`)
function toggle(kind: string) {
  const list = form.value!.photos
  form.value!.photos = list.includes(kind) ? list.filter((k) => k !== kind) : [...list, kind]
}
</script>

<template>
  <FieldGroup title="Prices of material">
    <template #below>
      <p v-if="done || wrong" role="status" class="said">{{ done || wrong }}</p>
      <p v-for="l in prices.data.value" :key="l.currency" class="row">
        <span
          >{{ l.prices.length }} prices in <b>{{ l.currency }}</b></span
        >
        <a class="btn plain" :href="`api/prices.csv?currency=${encodeURIComponent(l.currency)}`" download
          >Save as CSV</a
        >
      </p>
      <p v-if="!prices.data.value?.length" class="quiet">No list yet: conductors are sorted by size, not by cost.</p>
      <FileButton v-if="may('change the firm\'s data')" plain accept=".csv,text/csv" @chosen="read"
        >Read in a price list</FileButton
      >
    </template>
  </FieldGroup>
  <form v-if="form" @submit.prevent="save">
    <HabitFields v-for="c in countries" :key="c.id" v-model="form.habits![c.id]!" :country="c" :books="booksOf(c.id)" />
    <FieldGroup title="Policy" tight>
      <NumberField
        v-model="form.margins.end"
        name="policy.margins.end"
        label="Cable for connecting, each end"
        unit="m"
        zero
      />
      <NumberField
        v-model="form.margins.share"
        name="policy.margins.share"
        label="Cable to spare"
        unit="%"
        :scale="0.01"
        :decimals="0"
        zero
      />
      <NumberField
        v-model="form.sleepHours"
        name="policy.sleepHours"
        label="Prove dead again after a silence of"
        unit="h"
        hint="empty: the usual; a firm can only shorten it"
      />
      <NumberField
        v-model="form.keepYears"
        name="policy.keepYears"
        label="Customers’ data stay at least"
        unit="years"
        hint="after the last change, before they are taken out on request; empty: no wait"
        :decimals="0"
      />
      <CheckField v-model="form.secondPerson" class="second" data-field="policy.secondPerson">
        A second person sees every torque
      </CheckField>
      <CheckField v-model="form.testApart" class="second" data-field="policy.testApart">
        Test and seal are by another person than the work
      </CheckField>
      <CheckField v-model="form.openJobs" class="second" data-field="policy.openJobs">
        Crews see every job, not only those that they are booked for
      </CheckField>
      <template #below>
        <table>
          <thead>
            <tr>
              <th>Cost bands, defaults by common practice</th>
              <th v-for="c in countries" :key="c.id" colspan="2">{{ c.name }}, {{ c.money.symbol }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="[b, title] in bands" :key="b">
              <td>
                {{ title }}
                <span v-if="b === 'point'" class="quiet">
                  up to {{ countries.map((c) => inUnit(c.units.length, c.included)).join(', ') }}
                </span>
              </td>
              <template v-for="c in countries" :key="c.id">
                <td>
                  <NumberField
                    v-model="form.costs[c.id]![b]!.low"
                    :name="`policy.costs.${c.id}.${b}.low`"
                    label="from"
                    :decimals="0"
                    zero
                  />
                </td>
                <td>
                  <NumberField
                    v-model="form.costs[c.id]![b]!.high"
                    :name="`policy.costs.${c.id}.${b}.high`"
                    label="to"
                    :decimals="0"
                    zero
                  />
                </td>
              </template>
            </tr>
          </tbody>
        </table>
        <p class="row photos">
          <span class="quiet">Photos asked for besides the usual</span>
          <PushButton
            kind="plain"
            v-for="k in photoKinds.filter((p) => p.value === 'other')"
            :key="k.value"
            :aria-pressed="form.photos.includes(k.value)"
            @click="toggle(k.value)"
          >
            {{ form.photos.includes(k.value) ? '●' : '○' }} {{ k.text }}
          </PushButton>
        </p>
        <PushButton v-if="may('change the firm\'s data')" type="submit">Save the policy</PushButton>
      </template>
    </FieldGroup>
  </form>
</template>

<style scoped>
table {
  margin: 12px 0;
}
.said {
  font-weight: 600;
  white-space: pre-line;
}
.second {
  grid-column: 1 / -1;
}
.photos {
  margin-bottom: 10px;
}
p.row {
  margin: 8px 0;
}
</style>
