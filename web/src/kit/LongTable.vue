<script setup lang="ts" generic="T extends object">
/**
 * A long table, Vuetify's under our look: only the rows in sight are drawn, and a press or Enter on a column's head
 * sorts by it. The slot draws the cells of a row; `mark` gives a row its attributes.
 */
interface Column {
  key: string
  title: string
  /** What the column is sorted by; without it the column is not sorted. */
  by?: (row: T) => string | number
  right?: boolean
}
const props = defineProps<{
  rows: T[]
  columns: Column[]
  label: string
  first: string // the column that is sorted by at first
  mark?: (row: T) => Record<string, unknown>
}>()
const headers = props.columns.map((c) => ({
  key: c.key,
  title: c.title,
  value: c.by as (row: object) => string | number,
  sortable: !!c.by,
  align: c.right ? ('end' as const) : undefined,
}))
const tall = 15 // rows from which on the table moves in its own frame
</script>

<template>
  <v-data-table-virtual
    class="long"
    :items="rows"
    :headers="headers"
    :height="rows.length > tall ? '70vh' : undefined"
    :item-height="42"
    :sort-by="[{ key: first, order: 'asc' }]"
    :aria-label="label"
    density="compact"
    fixed-header
    must-sort
    hide-no-data
  >
    <template v-for="c in headers" :key="c.key" #[`header.${c.key}`]="{ column, sortBy }">
      {{ c.title
      }}<span v-if="sortBy[0]?.key === column.key" class="order" :class="String(sortBy[0].order)" aria-hidden="true" />
    </template>
    <template #item="{ item, itemRef }">
      <tr :ref="itemRef" v-bind="mark?.(item as T)">
        <slot :row="item as T" />
      </tr>
    </template>
  </v-data-table-virtual>
</template>

<style scoped>
.long {
  font: inherit;
  color: inherit;
  background: none;
  border-radius: 0;
}
.long :deep(th) {
  background: var(--paper);
  position: sticky;
  top: 0;
  z-index: 1;
  height: auto;
}
.long :deep(th.v-data-table__th--sortable) {
  cursor: pointer;
  color: var(--ink2);
}
/* The rows that stand for those out of sight. */
.long :deep(td[colspan]) {
  padding: 0;
}
.long :deep(.v-data-table-column--align-end) {
  text-align: right;
}
.order {
  display: inline-block;
  margin-left: 6px;
  border: 4px solid transparent;
}
.asc {
  border-bottom-color: var(--copper);
  transform: translateY(-2px);
}
.desc {
  border-top-color: var(--copper);
  transform: translateY(3px);
}
</style>
