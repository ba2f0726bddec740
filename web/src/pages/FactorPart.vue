<script setup lang="ts">
import { ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useMe } from '@/composables/useMe'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'

/** One's own second factor: set up with an authenticator, recovery codes, and its end. */
const { me, query } = useMe()
const fresh = ref<Schemas['Factor']>()
const codes = ref<string[]>()
const form = ref({ old: '', code: '' })
const { attempt, fields: errors, elsewhere: wrong } = useAttempt()
const begin = () => attempt(async () => (fresh.value = await ask(client.POST('/api/session/factor'))))
const take = () =>
  attempt(async () => {
    const body = { ...form.value, secret: fresh.value!.secret }
    codes.value = (await ask(client.PUT('/api/session/factor', { body }))).codes
    fresh.value = undefined
    form.value = { old: '', code: '' }
    await query.refetch()
  })
const end = () =>
  attempt(async () => {
    await ask(client.POST('/api/session/factor/end', { body: { old: form.value.old } }))
    codes.value = undefined
    form.value = { old: '', code: '' }
    await query.refetch()
  })
</script>

<template>
  <form @submit.prevent="me?.factor ? end() : take()">
    <FieldGroup title="Second factor" data-factor>
      <div v-if="fresh" class="secret">
        <p>Read this with an authenticator on your phone, or type the secret there.</p>
        <img :src="fresh.qr" width="232" height="232" alt="The secret as a picture for an authenticator" />
        <p class="mono" data-secret>{{ fresh.secret }}</p>
      </div>
      <template v-if="fresh || me?.factor">
        <TextField
          v-if="fresh"
          v-model="form.code"
          name="code"
          label="The six digits that it shows"
          autocomplete="one-time-code"
          mono
          :error="errors.code"
        />
        <TextField
          v-model="form.old"
          name="old-factor"
          label="Present password"
          type="password"
          autocomplete="current-password"
          :error="errors.old"
        />
      </template>
      <template #below>
        <p v-if="me?.lacks" class="lacks" role="status">
          The firm asks verifiers for a second factor, or a passkey. Until you sign in with one you cannot test, accept
          a stop or seal.
        </p>
        <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
        <div v-if="codes" class="codes" data-codes>
          <p>
            <b>Recovery codes.</b> Each signs you in once without the authenticator. Write them down now: they are not
            shown again.
          </p>
          <p class="mono">{{ codes.join('  ') }}</p>
        </div>
        <PushButton v-if="fresh" type="submit">Begin with this code</PushButton>
        <PushButton v-else-if="me?.factor" type="submit">End the second factor</PushButton>
        <template v-else>
          <p class="quiet">A code from your phone at each sign-in, besides the password.</p>
          <PushButton @click="begin">Set one up</PushButton>
        </template>
      </template>
    </FieldGroup>
  </form>
</template>

<style scoped>
.lacks,
.codes {
  border-left: 4px solid var(--watch);
  background: var(--band);
  padding: 8px 12px;
  margin: 8px 0;
}
.secret {
  grid-column: 1 / -1;
}
.secret .mono,
.codes .mono {
  overflow-wrap: anywhere;
  white-space: pre-wrap;
}
img {
  display: block;
  margin: 10px 0;
  background: #fff;
}
.btn {
  margin-top: 10px;
}
</style>
