<script setup lang="ts">
import { computed } from 'vue'
import { useDesk } from '@/composables/useJob'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import SheetGroup from '@/kit/SheetGroup.vue'
import DemandTable from '../survey/DemandTable.vue'
import type { Design } from './shape'

const props = defineProps<{ us: boolean }>()
const design = defineModel<Design>({ required: true })
const desk = useDesk()
const methods = computed(() =>
  props.us
    ? [
        { value: '220.82' as const, text: 'by calculation, 220.82' },
        { value: '220.83' as const, text: 'by calculation, 220.83' },
        { value: '220.87' as const, text: 'by measurement, 220.87' },
      ]
    : [
        { value: 'diversity' as const, text: 'by diversity' },
        { value: '220.87' as const, text: 'by measurement' },
      ],
)
</script>

<template>
  <SheetGroup title="Demand">
    <ChoiceField
      v-model="design.demandMethod"
      name="design.demandMethod"
      label="Method"
      :options="methods"
      empty="by measurement, if there is one"
    />
    <AnswerField
      v-if="us"
      v-model="design.evInBucket"
      name="design.evInBucket"
      label="Charging load"
      yes="inside the 40 %"
      no="at 100 %"
    />
    <template #below><DemandTable :demand="desk.view.demand" /></template>
  </SheetGroup>
</template>
