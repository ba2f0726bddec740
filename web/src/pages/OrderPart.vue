<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { ask, client } from '@/api/client'
import FieldGroup from '@/kit/FieldGroup.vue'
import { dayText } from '@/kit/dates'
import { amount } from '@/kit/numbers'

/** What jobs lack, grouped by supplier, and the jobs for which nothing may be bought yet. */
const orders = useQuery({ queryKey: ['orders'], queryFn: () => ask(client.GET('/api/orders')) })
</script>

<template>
  <FieldGroup v-if="orders.data.value" title="To order">
    <template #actions>
      <a class="btn plain" href="api/orders/export/csv" download>CSV</a>
      <a class="btn plain" href="api/orders/export/xlsx" download>XLSX</a>
    </template>
    <template #below>
      <p v-if="!orders.data.value.orders.length" class="quiet">Nothing that planned jobs lack.</p>
      <div v-for="o in orders.data.value.orders" :key="o.supplier" :data-order="o.supplier">
        <h3>{{ o.supplier || 'No supplier lists it' }}</h3>
        <table>
          <tbody>
            <tr v-for="l in o.lines" :key="l.name">
              <td>{{ l.name }}</td>
              <td class="mono right amount">{{ amount(l.quantity) }} {{ l.unit }}</td>
              <td class="mono">{{ l.jobs.join(' ') }}</td>
              <td>{{ l.by ? `by ${dayText(l.by)}` : 'no day yet' }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <template v-if="orders.data.value.held.length">
        <h3>Nothing may be bought yet for</h3>
        <p v-for="h in orders.data.value.held" :key="h.job">
          <span class="mono">{{ h.job }}</span> {{ h.why }}
        </p>
      </template>
    </template>
  </FieldGroup>
</template>

<style scoped>
table {
  table-layout: fixed;
}
td:first-child {
  width: 40%;
}
.amount {
  width: 14%;
}
</style>
