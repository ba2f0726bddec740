<script setup lang="ts">
import { computed } from 'vue'
import { useJob } from '@/composables/useJob'
import { terms, useCountry } from '@/composables/useCountry'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import DemandTable from '../survey/DemandTable.vue'
import type { Design } from './shape'

const design = defineModel<Design>({ required: true })
const opened = useJob()
const { page, asks, label } = useCountry()
const methods = computed(() => terms<NonNullable<Design['demandMethod']>>(page.value.demandMethods))
</script>

<template>
  <FieldGroup title="Demand">
    <ChoiceField
      v-model="design.demandMethod"
      name="design.demandMethod"
      label="Method"
      :options="methods"
      empty="by measurement, if there is one"
    />
    <AnswerField
      v-if="asks('design.evInBucket')"
      v-model="design.evInBucket"
      name="design.evInBucket"
      :label="label('design.evInBucket')"
      yes="inside the 40 %"
      no="at 100 %"
    />
    <template #below><DemandTable :demand="opened.view.demand" /></template>
  </FieldGroup>
</template>
