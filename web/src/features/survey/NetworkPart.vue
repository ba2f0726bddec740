<script setup lang="ts">
import type { Schemas } from '@/api/client'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TextField from '@/kit/TextField.vue'
import { networks, signals } from '../options'

const network = defineModel<Schemas['Network']>({ required: true })
const at = (field: string) => `survey.network.${field}`
</script>

<template>
  <FieldGroup title="Connectivity">
    <ChoiceField v-model="network.kind" :name="at('kind')" label="Joins by" :options="networks" />
    <ChoiceField
      v-if="network.kind && network.kind !== 'none' && network.kind !== 'wired'"
      v-model="network.signal"
      :name="at('signal')"
      label="Signal, tried at the position"
      :options="signals"
    />
    <TextField
      v-if="network.kind && network.kind !== 'none'"
      v-model="network.passwordWith"
      :name="at('passwordWith')"
      label="Who holds the password"
      hint="and will be there on the day"
    />
    <AnswerField v-model="network.setUpWithout" :name="at('setUpWithout')" label="Can be set up without network?" />
  </FieldGroup>
</template>
