<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref, watch } from 'vue'
import { ask, client, type Refusal, type Schemas } from '@/api/client'
import { useMe } from '@/composables/useMe'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TextField from '@/kit/TextField.vue'
import TopBar from '@/kit/TopBar.vue'
import FormsPart from './FormsPart.vue'
import PolicyPart from './PolicyPart.vue'
import TypesPart from './TypesPart.vue'
import NearMissPart from './NearMissPart.vue'
import ResourcesPart from './ResourcesPart.vue'

type Role = Schemas['Me']['role']
const { may, me } = useMe()
const queries = useQueryClient()
const firm = useQuery({ queryKey: ['firm'], queryFn: () => ask(client.GET('/api/firm')) })
const users = useQuery({ queryKey: ['users'], queryFn: () => ask(client.GET('/api/users')) })
const form = ref<Schemas['Contractor']>({ name: '' })
const fresh = ref({ username: '', name: '', role: 'installer' as Role | undefined, password: '' })
const errors = ref<Record<string, string>>({})
const said = ref('')
const roles = (['office', 'surveyor', 'installer', 'verifier'] as Role[]).map((r) => ({ value: r, text: r }))
watch(
  firm.data,
  (f) => {
    if (f) form.value = { name: f.name, address: f.address, phone: f.phone, email: f.email, scheme: f.scheme }
  },
  { immediate: true },
)

async function attempt(what: () => Promise<unknown>, done: string) {
  errors.value = {}
  said.value = ''
  try {
    await what()
    said.value = done
  } catch (e) {
    errors.value = (e as Refusal).fields
    said.value = (e as Error).message
  }
}
const saveFirm = () =>
  attempt(async () => {
    await ask(client.PUT('/api/firm', { body: form.value }))
    queries.invalidateQueries({ queryKey: ['firm'] })
  }, 'The firm is saved.')
const add = () =>
  attempt(async () => {
    await ask(client.POST('/api/users', { body: { ...fresh.value, role: fresh.value.role! } }))
    fresh.value = { username: '', name: '', role: 'installer', password: '' }
    queries.invalidateQueries({ queryKey: ['users'] })
  }, 'Added.')
const close = (u: Schemas['User']) =>
  attempt(
    async () => {
      await ask(
        client.PUT('/api/users/{user}/disabled', { params: { path: { user: u.id } }, body: { disabled: !u.disabled } }),
      )
      queries.invalidateQueries({ queryKey: ['users'] })
    },
    u.disabled ? 'Opened.' : 'Closed.',
  )
</script>

<template>
  <TopBar />
  <main class="page">
    <h1>People and firm</h1>
    <p v-if="said" class="said" role="status">{{ said }}</p>
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
          <button v-if="may('change the firm\'s data')" class="btn" type="submit">Save the firm</button>
        </template>
      </FieldGroup>
    </form>
    <ResourcesPart />
    <FormsPart />
    <PolicyPart />
    <TypesPart />
    <NearMissPart />
    <FieldGroup title="People">
      <template #below>
        <table>
          <thead>
            <tr>
              <th>Name</th>
              <th>Signs in as</th>
              <th>Role</th>
              <th />
            </tr>
          </thead>
          <tbody>
            <tr v-for="u in users.data.value" :key="u.id">
              <td>{{ u.name }}</td>
              <td class="mono">{{ u.username }}</td>
              <td>{{ u.role }}{{ u.disabled ? ', closed' : '' }}</td>
              <td class="right">
                <button
                  v-if="may('manage people') && u.id !== me?.id"
                  class="btn plain"
                  type="button"
                  @click="close(u)"
                >
                  {{ u.disabled ? 'Open again' : 'Close' }}
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </template>
    </FieldGroup>
    <form v-if="may('manage people')" @submit.prevent="add">
      <FieldGroup title="Add a person">
        <TextField v-model="fresh.name" name="name" label="Name, as records print it" :error="errors.name" />
        <TextField v-model="fresh.username" name="username" label="Signs in as" :error="errors.username" />
        <ChoiceField v-model="fresh.role" name="role" label="Role" :options="roles" />
        <TextField
          v-model="fresh.password"
          name="password"
          label="First password"
          type="password"
          autocomplete="new-password"
          :error="errors.password"
        />
        <template #below><button class="btn" type="submit">Add</button></template>
      </FieldGroup>
    </form>
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
