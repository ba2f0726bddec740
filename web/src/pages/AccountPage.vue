<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { ask, client } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useMe } from '@/composables/useMe'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import FactorPart from './FactorPart.vue'
import PasskeyPart from './PasskeyPart.vue'
import TopBar from '@/kit/TopBar.vue'
import { momentText } from '@/kit/dates'

/** One's own account: password, where one is signed in, where links go. */
const { me } = useMe()
const queries = useQueryClient()
const sessions = useQuery({ queryKey: ['sessions'], queryFn: () => ask(client.GET('/api/session/all')), staleTime: 0 })
const users = useQuery({ queryKey: ['users'], queryFn: () => ask(client.GET('/api/users')) })
const form = ref({ old: '', password: '' })
const mail = ref<string>()
const { attempt: attempted, fields: errors, elsewhere: wrong, done: said } = useAttempt()

async function attempt(what: () => Promise<unknown>, words: string) {
  if (!(await attempted(what, words))) return
  for (const key of ['sessions', 'users']) queries.invalidateQueries({ queryKey: [key] })
}
/** What a browser says of its device: the first words in brackets. */
const deviceOf = (agent: string) => agent.match(/\(([^)]*)\)/)?.[1] ?? agent
const change = () =>
  attempt(async () => {
    await ask(client.PUT('/api/session/password', { body: form.value }))
    form.value = { old: '', password: '' }
  }, 'The password is changed. Every other device is signed out.')
const everywhere = () => attempt(() => ask(client.DELETE('/api/session/all')), 'Every other device is signed out.')
const own = () => users.data.value?.find((u) => u.id === me.value?.id)?.mail ?? ''
const saveMail = () =>
  attempt(
    () =>
      ask(
        client.PUT('/api/users/{user}/mail', {
          params: { path: { user: me.value!.id } },
          body: { mail: mail.value ?? own() },
        }),
      ),
    'The address is saved.',
  )
</script>

<template>
  <TopBar />
  <main class="page">
    <h1>{{ me?.name }}</h1>
    <p class="quiet">
      Signs in as <span class="mono">{{ me?.username }}</span>; is {{ me?.roles.join(', ') }}. The office changes names
      and roles.
    </p>
    <p v-if="said" class="said" role="status">{{ said }}</p>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <form @submit.prevent="change">
      <FieldGroup title="Password">
        <TextField
          v-model="form.old"
          name="old"
          label="Present password"
          type="password"
          autocomplete="current-password"
          :error="errors.old"
        />
        <TextField
          v-model="form.password"
          name="password"
          label="New password"
          hint="ten characters or more"
          type="password"
          autocomplete="new-password"
          :error="errors.password"
        />
        <template #below><PushButton type="submit">Change the password</PushButton></template>
      </FieldGroup>
    </form>
    <FactorPart />
    <PasskeyPart />
    <FieldGroup title="Signed in on">
      <template #below>
        <table>
          <tbody>
            <tr v-for="s in sessions.data.value" :key="s.began + s.agent">
              <td>
                <b v-if="s.here">this browser</b> <span class="quiet agent">{{ deviceOf(s.agent) }}</span>
              </td>
              <td class="since">since {{ momentText(s.began) }}</td>
            </tr>
          </tbody>
        </table>
        <PushButton @click="everywhere">Sign out everywhere else</PushButton>
      </template>
    </FieldGroup>
    <form @submit.prevent="saveMail">
      <FieldGroup title="Links">
        <TextField
          :model-value="mail ?? own()"
          name="mail"
          label="Mail address"
          wide
          hint="A link for a new password goes there when you ask for one."
          :error="errors.mail"
          @update:model-value="mail = $event"
        />
        <template #below><PushButton type="submit">Save the address</PushButton></template>
      </FieldGroup>
    </form>
  </main>
</template>

<style scoped>
.page {
  max-width: 760px;
  margin: 0 auto;
  padding: 18px 22px 60px;
}
.said {
  margin-top: 8px;
  font-weight: 600;
}
.wrong {
  margin-top: 8px;
  color: var(--stop);
  font-weight: 600;
}
.agent {
  font-size: 13px;
  overflow-wrap: anywhere;
}
.since {
  white-space: nowrap;
  vertical-align: top;
}
.btn {
  margin-top: 10px;
}
@media (max-width: 719px) {
  .page {
    padding: 12px;
  }
}
</style>
