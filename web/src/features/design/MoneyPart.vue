<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import { useJob } from '@/composables/useJob'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TimeField from '@/kit/TimeField.vue'

/** Time and cost of charging, and whether two rates pay, by the customer's own figures. */
const props = defineProps<{ point: string }>()
const money = defineModel<Schemas['Money']>({ required: true })
const opened = useJob()
const query = useQuery({
  queryKey: computed(() => ['costs', opened.id, props.point, opened.view.revisions]),
  queryFn: () =>
    ask(
      client.GET('/api/jobs/{job}/points/{point}/costs', { params: { path: { job: opened.id, point: props.point } } }),
    ),
  placeholderData: keepPreviousData,
})
const c = computed(() => query.data.value)
const at = (f: string) => `design.money.${f}`
const mile = 1.609344
const { page } = useCountry()
const paid = computed(() => page.value.money)
const minor = computed(() => paid.value.minor)
const major = computed(() => paid.value.symbol)
const sum = (v: number) => (v ? `${major.value}${v.toFixed(2)}` : '–')
const perMile = (v: number) => (v ? `${(v * mile * 100).toFixed(1)} ${minor.value}` : '–')
const verdict = computed(() => {
  const x = c.value?.breakEven
  if (x === undefined) return ''
  if (x <= 0) return 'Two rates cost less even if nothing is charged at night.'
  if (x > 1) return 'Two rates cost more, however much is charged at night.'
  return `Two rates pay once ${(x * 100).toFixed(0)} % of the home charging falls into the night.`
})
</script>

<template>
  <FieldGroup title="Time and money" tight>
    <NumberField v-model="money.flat" :name="at('flat')" label="Flat price" :unit="`${minor}/kWh`" :scale="0.01" />
    <NumberField v-model="money.day" :name="at('day')" label="Two rates, day" :unit="`${minor}/kWh`" :scale="0.01" />
    <NumberField
      v-model="money.night"
      :name="at('night')"
      label="Two rates, night"
      :unit="`${minor}/kWh`"
      :scale="0.01"
    />
    <TimeField v-model="money.nightFrom" :name="at('nightFrom')" label="Night from" />
    <TimeField v-model="money.nightTo" :name="at('nightTo')" label="Night to" />
    <NumberField v-model="money.house" :name="at('house')" label="House, a year" unit="kWh" :decimals="0" />
    <NumberField
      v-model="money.houseNight"
      :name="at('houseNight')"
      label="of it at night"
      unit="%"
      :scale="0.01"
      :decimals="0"
    />
    <NumberField
      v-model="money.distance"
      :name="at('distance')"
      label="Driven on home charging, a year"
      unit="miles"
      :scale="mile"
      :decimals="0"
    />
    <NumberField v-model="money.kmPerKwh" :name="at('kmPerKwh')" label="Vehicle" unit="mi/kWh" :scale="mile" />
    <NumberField v-model="money.fuel" :name="at('fuel')" label="Fuel" :unit="paid.fuel" :scale="paid.fuelScale" />
    <NumberField
      v-model="money.kmPerLitre"
      :name="at('kmPerLitre')"
      label="Fuel car"
      unit="mpg"
      :scale="mile / paid.gallon"
      :decimals="1"
    />
    <template v-if="c" #below>
      <div class="scroll" tabindex="0" role="region" aria-label="Ways out and what they cost">
        <table v-if="c.sums.length">
          <thead>
            <tr>
              <th>Vehicle</th>
              <th class="right">Draws</th>
              <th>Limited by</th>
              <th class="right">Usual night</th>
              <th class="right">Gains</th>
              <th class="right">Flat</th>
              <th class="right">Two rates, at once</th>
              <th class="right">Two rates, waiting</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in c.sums" :key="s.vehicle">
              <td>{{ s.vehicle }}</td>
              <td class="right mono">{{ s.power.toFixed(1) }} kW</td>
              <td>{{ s.limit }}</td>
              <td class="right mono">
                {{ s.hours ? `${s.hours.toFixed(1)} h` : '–'
                }}<template v-if="s.shortage"> ({{ s.shortage.toFixed(0) }} kWh short)</template>
              </td>
              <td class="right mono">{{ s.gain ? `${(s.gain / mile).toFixed(0)} mi/h` : '–' }}</td>
              <td class="right mono">{{ sum(s.flat) }}</td>
              <td class="right mono">{{ sum(s.atOnce) }}</td>
              <td class="right mono">{{ sum(s.waiting) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="verdict" class="verdict" data-break-even>{{ verdict }}</p>
      <p v-if="c.breakEven !== undefined" class="quiet">
        A year, house and car: {{ major }}{{ c.flatYear.toFixed(0) }} flat, {{ major }}{{ c.nightYear.toFixed(0) }} on
        two rates with all charging at night. A mile: {{ perMile(c.flatPerKm) }} flat, {{ perMile(c.nightPerKm) }} at
        night, {{ perMile(c.fuelPerKm) }} on fuel. <span class="mono">{{ c.working }}</span>
      </p>
      <p v-if="c.missing?.length" class="quiet">needs: {{ c.missing.join(', ') }}</p>
      <p class="quiet">At 90 % from socket to battery, common practice.</p>
    </template>
  </FieldGroup>
</template>

<style scoped>
table {
  margin-top: 12px;
}
.scroll {
  overflow-x: auto;
}
.mono {
  overflow-wrap: anywhere;
}
.verdict {
  margin-top: 8px;
  font-weight: 600;
}
</style>
