<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, client } from '@/api/client'
import { firstPage } from '@/composables/first'
import { useAttempt } from '@/composables/useAttempt'
import { useMe } from '@/composables/useMe'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import DoorFrame from './DoorFrame.vue'

/** Where a one-time link leads: its person chooses a password. */
const router = useRouter()
const { useLink } = useMe()
const token = String(useRoute().query.token ?? '')
const whose = useQuery({
  queryKey: ['link', token],
  queryFn: () => ask(client.POST('/api/link/whose', { body: { token } })),
  retry: false,
})
const password = ref('')
const { attempt, fields, wrong } = useAttempt()

async function submit() {
  if (await attempt(() => useLink(token, password.value))) router.replace(firstPage())
}
</script>

<template>
  <DoorFrame title="Choose your password">
    <p v-if="whose.isError.value" class="error" role="alert">{{ whose.error.value?.message }}</p>
    <form v-else-if="whose.data.value" class="fields" @submit.prevent="submit">
      <p>
        <b>{{ whose.data.value.name }}</b>, you sign in as <span class="mono">{{ whose.data.value.username }}</span>.
        The link works once.
      </p>
      <input hidden autocomplete="username" :value="whose.data.value.username" />
      <TextField
        v-model="password"
        name="password"
        label="Password, ten characters or more"
        type="password"
        autocomplete="new-password"
        :error="fields.password ?? wrong"
      />
      <PushButton kind="main" type="submit">Keep it and sign in</PushButton>
    </form>
    <p v-else class="quiet">looking…</p>
    <router-link to="/sign-in">To the sign-in</router-link>
  </DoorFrame>
</template>
