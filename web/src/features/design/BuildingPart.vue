<script setup lang="ts">
import AnswerField from '@/kit/AnswerField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import type { Design } from './shape'

/** What is put right with the work at a building of its own; the survey keeps what was found. */
const design = defineModel<Design>({ required: true })
</script>

<template>
  <FieldGroup id="design.building" title="Put right at the building with this work">
    <AnswerField
      v-model="design.building.disconnect"
      name="design.building.disconnect"
      label="Disconnect fitted where the feeder comes in?"
    />
    <AnswerField
      v-model="design.building.electrode"
      name="design.building.electrode"
      label="Grounding electrode driven and joined?"
    />
    <AnswerField
      v-model="design.building.neutralApart"
      name="design.building.neutralApart"
      label="Neutral parted from the ground?"
    />
  </FieldGroup>
</template>
