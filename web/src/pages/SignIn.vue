<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, client } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
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
const { attempt, fields, wrong, busy, error } = useAttempt()
const asked = ref('')
const code = ref('')
const wantsCode = ref(false) // the account has a second factor

async function enter(how: () => Promise<void>) {
  asked.value = ''
  if (await attempt(how)) router.replace(String(route.query.to ?? firstPage()))
}
const submit = () => enter(() => signIn(username.value, password.value, code.value || undefined))
// A first refusal for want of the code asks for it; it is no fault yet.
const asking = shallowRef<unknown>()
watch(error, (e) => {
  if (!e?.fields?.code || wantsCode.value) return
  wantsCode.value = true
  asking.value = e
})
const refused = computed(() => (error.value === asking.value ? '' : (fields.value.code ?? wrong.value)))
/** Asks for a link by mail. The answer is the same for everybody. */
async function forgotten() {
  asked.value = ''
  const whose = async () => {
    if (!username.value) throw new Error('Enter the name that you sign in with, then ask again.')
    await ask(client.POST('/api/link/mail', { body: { username: username.value } }))
  }
  if (await attempt(whose))
    asked.value =
      'If this account has a mail address and the firm sends mails, a link is on its way. Otherwise the office makes you one.'
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
        :error="refused"
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
