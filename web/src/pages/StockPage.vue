<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client, fileBody, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useMe } from '@/composables/useMe'
import EmptyState from '@/kit/EmptyState.vue'
import { dayText } from '@/kit/dates'
import FileButton from '@/kit/FileButton.vue'
import LineField from '@/kit/LineField.vue'
import ListField from '@/kit/ListField.vue'
import LongTable from '@/kit/LongTable.vue'
import PushButton from '@/kit/PushButton.vue'
import TopBar from '@/kit/TopBar.vue'
import { amount } from '@/kit/numbers'
import OrderPart from './OrderPart.vue'
import StockItemForm from './StockItemForm.vue'

/** What vans, store and suppliers have, reel by reel, and what must be ordered. */
const { may } = useMe()
const queries = useQueryClient()
const words = ref('')
const place = ref<string>()
const state = ref<string>()
const { attempt: attempted, told } = useAttempt()
const editing = ref<Schemas['Ware']>()
const query = useQuery({ queryKey: ['stock'], queryFn: () => ask(client.GET('/api/stock')) })
const places = computed(() => [...new Set((query.data.value ?? []).map((i) => i.place ?? '').filter(Boolean))].sort())
const found = computed(() => {
  const parts = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  return (query.data.value ?? []).filter(
    (i) =>
      (!place.value || i.place === place.value) &&
      (!state.value || i.state === state.value) &&
      parts.every((p) => `${i.name} ${i.id} ${i.supplier ?? ''}`.toLowerCase().includes(p)),
  )
})
const free = (i: Schemas['Ware']) => (i.state === 'in-hand' ? i.quantity - i.held : -1)
const columns = [
  { key: 'name', title: 'What', by: (i: Schemas['Ware']) => i.name },
  { key: 'id', title: 'Number', by: (i: Schemas['Ware']) => i.id },
  { key: 'where', title: 'Where', by: (i: Schemas['Ware']) => (i.state === 'listed' ? i.supplier : i.place) ?? '' },
  { key: 'state', title: 'State', by: (i: Schemas['Ware']) => `${states[i.state]} ${i.expected ?? ''}` },
  { key: 'there', title: 'There', by: (i: Schemas['Ware']) => i.quantity, right: true },
  { key: 'held', title: 'Held', by: (i: Schemas['Ware']) => i.held, right: true },
  { key: 'gauge', title: '' },
  { key: 'free', title: 'Free', by: free, right: true },
  { key: 'change', title: '' },
]
const states = { 'in-hand': 'in hand', ordered: 'ordered', listed: 'listed' } as const

/** Does something to the stock, which says in words what it did. */
function attempt(what: () => Promise<string>) {
  let words = ''
  const change = async () => {
    words = await what()
    await queries.invalidateQueries()
  }
  return attempted(change, () => words)
}
const read = (file: File) =>
  attempt(async () => {
    const r = await ask(client.POST('/api/stock/import', { ...fileBody(file, 'application/octet-stream') }))
    return `${file.name}: ${r.items} items are read in.`
  })
const save = (item: Schemas['Ware']) =>
  attempt(async () => {
    await ask(client.PUT('/api/stock', { body: { ...item, held: 0 } }))
    editing.value = undefined
    return `${item.id} is saved.`
  })
const drop = (id: string) =>
  attempt(async () => {
    await ask(client.DELETE('/api/stock/{item}', { params: { path: { item: id } } }))
    editing.value = undefined
    return `${id} is removed.`
  })
</script>

<template>
  <TopBar />
  <main class="stock">
    <header class="row">
      <h1>Stock</h1>
      <span class="quiet">in hand is what can be held for a job; listed by a supplier is not</span>
      <span class="grow" />
      <a class="btn plain" href="api/stock/export/csv" download>CSV</a>
      <a class="btn plain" href="api/stock/export/xlsx" download>XLSX</a>
      <FileButton v-if="may('change the stock')" plain accept=".csv,.xlsx" @chosen="read">Read in a file</FileButton>
      <PushButton
        v-if="may('change the stock')"
        @click="editing = { id: '', name: '', state: 'in-hand', quantity: 1, held: 0 }"
      >
        Add an item
      </PushButton>
    </header>
    <p v-if="told" class="said" role="status">{{ told }}</p>
    <StockItemForm
      v-if="editing"
      :key="editing.id"
      :item="editing"
      @save="save"
      @drop="drop"
      @close="editing = undefined"
    />
    <OrderPart />
    <div class="row filters">
      <LineField v-model="words" type="search" placeholder="Name, number or supplier" label="Search the stock" />
      <ListField
        v-model="place"
        :options="places.map((p) => ({ value: p, text: p }))"
        empty="every place"
        label="Place"
      />
      <ListField
        v-model="state"
        :options="Object.entries(states).map(([value, text]) => ({ value, text }))"
        empty="every state"
        label="State"
      />
      <span class="quiet">{{ found.length }} lines</span>
    </div>
    <EmptyState v-if="query.isError.value" title="The stock cannot be read" :text="query.error.value?.message" />
    <EmptyState
      v-else-if="query.data.value && !query.data.value.length"
      title="Nothing counted yet"
      text="Read in a CSV or XLSX file, or add items one by one."
    />
    <LongTable
      v-else
      :rows="found"
      :columns="columns"
      first="name"
      label="Stock"
      :mark="(i) => ({ 'data-item': i.id })"
    >
      <template #default="{ row: i }">
        <td>{{ i.name }}<span v-if="i.reel" class="tag">reel</span></td>
        <td class="mono">{{ i.id }}</td>
        <td>{{ i.state === 'listed' ? i.supplier : i.place }}</td>
        <td :class="i.state">
          {{ states[i.state] }}<span v-if="i.expected" class="quiet">, expected {{ dayText(i.expected) }}</span>
        </td>
        <td class="mono right">{{ amount(i.quantity) }} {{ i.unit }}</td>
        <td class="mono right">{{ i.held ? amount(i.held) : '–' }}</td>
        <td class="right">
          <span v-if="i.reel && i.quantity && i.state === 'in-hand'" class="gauge" aria-hidden="true">
            <i :style="{ width: `${(100 * (i.quantity - i.held)) / i.quantity}%` }" />
          </span>
        </td>
        <td class="mono right">
          {{ i.state === 'in-hand' ? amount(i.quantity - i.held) : '–' }}
        </td>
        <td class="right">
          <PushButton kind="plain" v-if="may('change the stock')" class="small" @click="editing = { ...i }">
            Change
          </PushButton>
        </td>
      </template>
    </LongTable>
  </main>
</template>

<style scoped>
.stock {
  max-width: 1180px;
  margin: 0 auto;
  padding: 18px 22px 60px;
}
.said {
  margin-top: 8px;
  font-weight: 600;
  white-space: pre-line;
}
.filters {
  margin: 14px 0 8px;
}
.filters .v-input {
  flex: 1 1 240px;
}
.tag {
  border: 1px solid var(--line);
  border-radius: 3px;
  font-size: 11.5px;
  padding: 0 5px;
  margin-left: 6px;
  color: var(--slate);
}
.small {
  min-height: 30px;
  padding: 0 10px;
  font-weight: 400;
}
.listed {
  color: var(--slate);
}
.ordered {
  color: var(--watch);
}
.gauge {
  display: inline-block;
  width: 54px;
  height: 7px;
  border: 1px solid var(--slate);
  margin-right: 6px;
}
.gauge i {
  display: block;
  height: 100%;
  background: var(--slate);
}
@media (max-width: 719px) {
  .stock {
    padding: 12px;
    overflow-x: auto;
  }
}
</style>
