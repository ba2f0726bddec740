<script setup lang="ts">
import type { Schemas } from '@/api/client'
import AnswerField from '@/kit/AnswerField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TextField from '@/kit/TextField.vue'

const consent = defineModel<Schemas['Consent']>({ required: true })
const at = (field: string) => `survey.consent.${field}`
</script>

<template>
  <FieldGroup title="Refusals and consents">
    <AnswerField v-model="consent.asked" :name="at('asked')" label="Asked what they will not have?" />
    <TextField
      v-model="consent.refused"
      :name="at('refused')"
      label="What they will not have"
      hint="holes in a room, trunking in sight; empty: nothing"
    />
    <AnswerField v-model="consent.landlord" :name="at('landlord')" label="Must a landlord agree?" />
    <AnswerField
      v-model="consent.ownBay"
      :name="at('ownBay')"
      label="Is the parking their own?"
      hint="if not, the charger needs access control"
    />
  </FieldGroup>
</template>
