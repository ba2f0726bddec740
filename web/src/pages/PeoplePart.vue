<script setup lang="ts">
import { base } from '@/base'
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useMe } from '@/composables/useMe'
import CheckField from '@/kit/CheckField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import RolesField from '@/kit/RolesField.vue'
import TextField from '@/kit/TextField.vue'
import type { Role } from '@/kit/roles'

/** The firm's people: what each is, links by which they choose a password, and closing. */
type User = Schemas['User']
const { may, me } = useMe()
const queries = useQueryClient()
const users = useQuery({ queryKey: ['users'], queryFn: () => ask(client.GET('/api/users')) })
const empty = () => ({ username: '', name: '', roles: ['installer'] as Role[], mail: '' })
const fresh = ref(empty())
const { attempt: attempted, wrong, done: said } = useAttempt()
const { attempt: addition, fields: errors, elsewhere: notAdded } = useAttempt()
const link = ref<{ name: string; address: string }>()
const changed = ref<{ id: string; roles: Role[] }>()

async function attempt(what: () => Promise<unknown>, words = '') {
  if (await attempted(what, words)) queries.invalidateQueries({ queryKey: ['users'] })
}
const addressOf = (token: string) => `${location.origin}${base}/link?token=${token}`
const add = () =>
  addition(async () => {
    const body = { ...fresh.value, mail: fresh.value.mail || undefined }
    const u = await ask(client.POST('/api/users', { body }))
    if (u.link) link.value = { name: u.name, address: addressOf(u.link) }
    fresh.value = empty()
    queries.invalidateQueries({ queryKey: ['users'] })
  })
const path = (u: { id: string }) => ({ path: { user: u.id } })
const close = (u: User) =>
  attempt(
    () => ask(client.PUT('/api/users/{user}/disabled', { params: path(u), body: { disabled: !u.disabled } })),
    u.disabled ? `${u.name}’s account is open.` : `${u.name}’s account is closed, and signed out everywhere.`,
  )
const newLink = (u: User) =>
  attempt(async () => {
    const { link: token } = await ask(client.POST('/api/users/{user}/link', { params: path(u) }))
    link.value = { name: u.name, address: addressOf(token) }
  })
const saveRoles = () =>
  attempt(async () => {
    const c = changed.value!
    await ask(client.PUT('/api/users/{user}/roles', { params: path(c), body: { roles: c.roles } }))
    changed.value = undefined
  }, 'Saved; it is in the audit.')
const dropFactor = (u: User) =>
  attempt(
    () => ask(client.DELETE('/api/users/{user}/factor', { params: path(u) })),
    `${u.name} signs in by the password alone, and can set up another second factor.`,
  )
const demand = useQuery({ queryKey: ['demand'], queryFn: () => ask(client.GET('/api/firm/factor')) })
const setDemand = (on: boolean) =>
  attempt(
    async () => {
      await ask(client.PUT('/api/firm/factor', { body: { demand: on } }))
      queries.setQueryData(['demand'], { demand: on })
    },
    on ? 'Verifiers need a second factor from now on.' : 'Verifiers sign in by their passwords.',
  )
const copy = () => navigator.clipboard?.writeText(link.value!.address).then(() => (said.value = 'The link is copied.'))
</script>

<template>
  <FieldGroup title="People">
    <template v-if="may('view the audit')" #actions>
      <router-link class="btn plain" to="/audit">Who did what</router-link>
    </template>
    <template #below>
      <p v-if="said" class="said" role="status">{{ said }}</p>
      <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
      <div v-if="link" class="once" data-link>
        <p>
          Give <b>{{ link.name }}</b> this link. It works once, for three days; nobody else learns the password that is
          chosen by it. It is shown only now.
        </p>
        <p class="row">
          <code>{{ link.address }}</code>
          <PushButton kind="plain" @click="copy">Copy</PushButton>
          <PushButton kind="plain" @click="link = undefined">Done</PushButton>
        </p>
      </div>
      <table>
        <thead>
          <tr>
            <th>Name</th>
            <th>Signs in as</th>
            <th>Is</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <template v-for="u in users.data.value" :key="u.id">
            <tr :data-user="u.username">
              <td>{{ u.name }}</td>
              <td class="mono">{{ u.username }}</td>
              <td>
                {{ u.roles.join(', ') }}<template v-if="u.disabled">; closed</template
                ><template v-else-if="u.waits">; has not chosen a password</template>
              </td>
              <td class="right">
                <span v-if="may('manage people')" class="acts">
                  <PushButton kind="plain" v-if="!u.disabled" @click="newLink(u)">New link</PushButton>
                  <PushButton kind="plain" @click="changed = { id: u.id, roles: [...u.roles] }"> Roles </PushButton>
                  <PushButton kind="plain" v-if="u.factor" @click="dropFactor(u)"> End second factor </PushButton>
                  <PushButton kind="plain" v-if="u.id !== me?.id" @click="close(u)">
                    {{ u.disabled ? 'Open again' : 'Close' }}
                  </PushButton>
                </span>
              </td>
            </tr>
            <tr v-if="changed?.id === u.id">
              <td colspan="4">
                <form class="change" @submit.prevent="saveRoles">
                  <RolesField v-model="changed.roles" />
                  <p class="row">
                    <PushButton type="submit">Save {{ u.name }}’s roles</PushButton>
                    <PushButton kind="plain" @click="changed = undefined">Leave as they are</PushButton>
                  </p>
                </form>
              </td>
            </tr>
          </template>
        </tbody>
      </table>
      <CheckField
        v-if="may('manage people') && demand.data.value"
        name="demand"
        :model-value="demand.data.value.demand"
        @update:model-value="(on) => setDemand(!!on)"
      >
        Verifiers need a second factor: who has none neither tests nor seals
      </CheckField>
    </template>
  </FieldGroup>
  <form v-if="may('manage people')" data-add @submit.prevent="add">
    <FieldGroup title="Add a person">
      <TextField v-model="fresh.name" name="name" label="Name, as records print it" :error="errors.name" />
      <TextField v-model="fresh.username" name="username" label="Signs in as" :error="errors.username" />
      <TextField v-model="fresh.mail" name="mail" label="Mail address, if links may go there" :error="errors.mail" />
      <RolesField v-model="fresh.roles" :error="errors.roles" />
      <template #below>
        <p v-if="notAdded" class="error" role="alert">{{ notAdded }}</p>
        <p class="quiet">The person chooses a password by a link that you give them.</p>
        <PushButton type="submit">Add, and make the link</PushButton>
      </template>
    </FieldGroup>
  </form>
</template>

<style scoped>
.said {
  margin: 8px 0;
  font-weight: 600;
}
.error {
  margin: 8px 0;
  color: var(--stop);
  font-weight: 600;
}
.once {
  border-left: 4px solid var(--copper);
  background: var(--band);
  padding: 10px 12px;
  margin: 10px 0;
}
.once code {
  overflow-wrap: anywhere;
}
.acts {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 6px;
  justify-content: flex-end;
}
.change {
  background: var(--band);
  padding: 10px 12px;
}
table {
  margin-top: 10px;
}
form .btn {
  margin-top: 10px;
}
@media (max-width: 719px) {
  tr[data-user] {
    display: grid;
    grid-template-columns: 1fr auto;
    padding: 8px 0;
    border-bottom: 1px solid var(--line);
  }
  tr[data-user] td {
    border: 0;
    padding: 2px 4px;
  }
  tr[data-user] .right {
    grid-column: 1 / -1;
    text-align: left;
  }
  thead {
    display: none;
  }
}
</style>
