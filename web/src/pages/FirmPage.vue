<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref, watch } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useMe } from '@/composables/useMe'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import TopBar from '@/kit/TopBar.vue'
import FormsPart from './FormsPart.vue'
import DoctorPart from './DoctorPart.vue'
import PeoplePart from './PeoplePart.vue'
import PolicyPart from './PolicyPart.vue'
import TypesPart from './TypesPart.vue'
import NearMissPart from './NearMissPart.vue'
import ResourcesPart from './ResourcesPart.vue'

const { may } = useMe()
const queries = useQueryClient()
const firm = useQuery({ queryKey: ['firm'], queryFn: () => ask(client.GET('/api/firm')) })
const form = ref<Schemas['Contractor']>({ name: '' })
const { attempt, wrong, done } = useAttempt()
watch(
  firm.data,
  (f) => {
    if (f) form.value = { name: f.name, address: f.address, phone: f.phone, email: f.email, scheme: f.scheme }
  },
  { immediate: true },
)

const saveFirm = () =>
  attempt(async () => {
    await ask(client.PUT('/api/firm', { body: form.value }))
    queries.invalidateQueries({ queryKey: ['firm'] })
  }, 'The firm is saved.')
</script>

<template>
  <TopBar />
  <main class="page">
    <h1>People and firm</h1>
    <p v-if="done || wrong" class="said" role="status">{{ done || wrong }}</p>
    <form @submit.prevent="saveFirm">
      <FieldGroup title="The firm, as records print it">
        <TextField v-model="form.name" name="firm.name" label="Name" :disabled="!may('change the firm\'s data')" />
        <TextField v-model="form.address" name="firm.address" label="Address" />
        <TextField v-model="form.phone" name="firm.phone" label="Telephone" />
        <TextField v-model="form.email" name="firm.email" label="Mail" />
        <TextField v-model="form.scheme" name="firm.scheme" label="Registration or licence" />
        <template #below>
          <p v-if="firm.data.value" class="quiet key">
            Sealing key <span class="mono">{{ firm.data.value.fingerprint }}</span>: give it to customers and
            inspectors, so that they can compare.
          </p>
          <PushButton v-if="may('change the firm\'s data')" type="submit">Save the firm</PushButton>
        </template>
      </FieldGroup>
    </form>
    <ResourcesPart />
    <FormsPart />
    <PolicyPart />
    <TypesPart />
    <NearMissPart />
    <PeoplePart />
    <DoctorPart v-if="may('view the audit')" />
  </main>
</template>

<style scoped>
.page {
  max-width: 900px;
  margin: 0 auto;
  padding: 18px 22px 60px;
}
.said {
  margin-top: 8px;
  font-weight: 600;
}
.key {
  margin: 10px 0;
}
.btn {
  margin-top: 10px;
}
</style>
