<script setup lang="ts">
import DayLine from '@/kit/DayLine.vue'
import LineField from '@/kit/LineField.vue'
import PushButton from '@/kit/PushButton.vue'

/** A small table of words that are typed into its cells. */
const props = defineProps<{ title: string; columns: string[]; rows: string[][]; dates?: number[]; off?: boolean }>()
const emit = defineEmits<{ set: [row: number, cells: string[]]; add: []; drop: [row: number] }>()
function change(row: number, cell: number, to: string) {
  const cells = [...props.rows[row]]
  cells[cell] = to
  emit('set', row, cells)
}
</script>

<template>
  <div class="row head">
    <h3>{{ title }}</h3>
    <span class="grow" />
    <PushButton kind="plain" v-if="!off" :aria-label="`Add to ${title}`" @click="emit('add')"> Add </PushButton>
  </div>
  <div class="scroll" tabindex="0" role="region" :aria-label="title">
    <table v-if="rows.length">
      <thead>
        <tr>
          <th v-for="c in columns" :key="c">{{ c }}</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, i) in rows" :key="i">
          <td v-for="(v, k) in r" :key="k">
            <DayLine
              v-if="dates?.includes(k)"
              :model-value="v"
              :readonly="off"
              :label="`${title}, ${i + 1}: ${columns[k]}`"
              @update:model-value="(day) => change(i, k, day ?? '')"
            />
            <LineField
              v-else
              :model-value="v"
              :readonly="off"
              :label="`${title}, ${i + 1}: ${columns[k]}`"
              @change="(e: Event) => change(i, k, (e.target as HTMLInputElement).value)"
            />
          </td>
          <td class="right">
            <PushButton kind="own" v-if="!off" class="drop" :aria-label="`Remove ${r[0]}`" @click="emit('drop', i)">
              Remove
            </PushButton>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.head {
  margin-top: 8px;
}
.scroll {
  overflow-x: auto;
}
td {
  padding: 3px 4px;
}
td :deep(input) {
  min-width: 70px;
  padding: 4px 6px;
}
td :deep(input:read-only) {
  background: none;
  border-color: transparent;
}
.drop {
  font: inherit;
  font-size: 12px;
  color: var(--slate);
  background: none;
  border: 0;
  cursor: pointer;
}
</style>
