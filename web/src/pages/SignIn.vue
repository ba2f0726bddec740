<script setup lang="ts">
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, client, type Refusal } from '@/api/client'
import { passkeysHere } from '@/composables/passkeys'
import { firstPage } from '@/composables/first'
import { useMe } from '@/composables/useMe'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import DoorFrame from './DoorFrame.vue'

const route = useRoute()
const router = useRouter()
const { signIn, signInByPasskey } = useMe()
const username = ref('')
const password = ref('')
const error = ref('')
const busy = ref(false)
const asked = ref('')
const code = ref('')
const wantsCode = ref(false) // the account has a second factor

async function enter(how: () => Promise<void>) {
  busy.value = true
  error.value = ''
  try {
    await how()
    router.replace(String(route.query.to ?? firstPage()))
  } catch (e) {
    if ((e as Refusal).fields?.code && !wantsCode.value) wantsCode.value = true
    else error.value = (e as Refusal).fields?.code ?? (e as Error).message
  } finally {
    busy.value = false
  }
}
const submit = () => enter(() => signIn(username.value, password.value, code.value || undefined))
/** Asks for a link by mail. The answer is the same for everybody. */
async function forgotten() {
  error.value = asked.value = ''
  if (!username.value) return (error.value = 'Enter the name that you sign in with, then ask again.')
  try {
    await ask(client.POST('/api/link/mail', { body: { username: username.value } }))
    asked.value =
      'If this account has a mail address and the firm sends mails, a link is on its way. Otherwise the office makes you one.'
  } catch (e) {
    error.value = (e as Error).message
  }
}
</script>

<template>
  <DoorFrame title="Sign in">
    <form class="fields" @submit.prevent="submit">
      <TextField v-model="username" name="username" label="Name to sign in with" autocomplete="username" />
      <TextField
        v-model="password"
        name="password"
        label="Password"
        type="password"
        autocomplete="current-password"
        :error="error"
      />
      <TextField
        v-if="wantsCode"
        v-model="code"
        name="code"
        label="Code of your authenticator, or a recovery code"
        autocomplete="one-time-code"
        mono
      />
      <p v-if="asked" role="status">{{ asked }}</p>
      <PushButton kind="main" type="submit" :disabled="busy">Sign in</PushButton>
      <PushButton v-if="passkeysHere" data-passkey :disabled="busy" @click="enter(signInByPasskey)">
        Sign in with a passkey
      </PushButton>
      <PushButton kind="plain" @click="forgotten">I do not know my password</PushButton>
    </form>
  </DoorFrame>
</template>
