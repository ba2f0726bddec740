<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import NumberField from '@/kit/NumberField.vue'

/** The highest demand of each of twelve months, as the bills say it. All twelve together are a year's record. */
const supply = defineModel<Schemas['Supply']>({ required: true })
const names = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const { page } = useCountry()
const volts = computed(
  () => (page.value.systems.find((s) => s.value === supply.value.system) ?? page.value.systems[0])?.volts ?? NaN,
)
function set(month: number, amps?: number) {
  const list = names.map((_, i) => (i === month ? (amps ?? 0) : (supply.value.monthly?.[i] ?? 0)))
  supply.value.monthly = list.some((a) => a > 0) ? list : undefined
}
</script>

<template>
  <details class="monthly" data-field="survey.supply.monthly">
    <summary>or twelve monthly peaks from the bills</summary>
    <div class="grid">
      <NumberField
        v-for="(n, i) in names"
        :key="n"
        :model-value="supply.monthly?.[i]"
        :name="`survey.supply.monthly.${i}`"
        :label="n"
        unit="kW"
        :scale="1000 / volts"
        @update:model-value="(a) => set(i, a)"
      />
    </div>
  </details>
</template>

<style scoped>
.monthly {
  margin-top: 12px;
}
summary {
  cursor: pointer;
  min-height: 28px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(110px, 1fr));
  gap: 8px 12px;
  margin-top: 6px;
}
</style>
