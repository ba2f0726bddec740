<script setup lang="ts">
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useAttempt } from '@/composables/useAttempt'
import { useMe } from '@/composables/useMe'
import PushButton from '@/kit/PushButton.vue'
import RolesField from '@/kit/RolesField.vue'
import TextField from '@/kit/TextField.vue'
import { roles } from '@/kit/roles'
import DoorFrame from './DoorFrame.vue'

const route = useRoute()
const router = useRouter()
const { setUp } = useMe()
const form = ref({ username: '', name: '', roles: roles.map((r) => r.value), password: '' })
const { attempt, fields: errors, elsewhere } = useAttempt()

async function submit() {
  if (await attempt(() => setUp({ token: String(route.query.token ?? ''), ...form.value }))) router.replace('/firm')
}
</script>

<template>
  <DoorFrame title="Make the first account">
    <p class="quiet">It is of the office, and may add the other people. The link works once.</p>
    <form class="fields" @submit.prevent="submit">
      <TextField v-model="form.name" name="name" label="Your name, as records print it" :error="errors.name" />
      <TextField
        v-model="form.username"
        name="username"
        label="Name to sign in with"
        autocomplete="username"
        :error="errors.username"
      />
      <TextField
        v-model="form.password"
        name="password"
        label="Password, ten characters or more"
        type="password"
        autocomplete="new-password"
        :error="errors.password"
      />
      <RolesField v-model="form.roles" always="office" :error="errors.roles" />
      <p class="quiet">Where one person does it all, one account is enough.</p>
      <p v-if="elsewhere" class="error" role="alert">{{ elsewhere }}</p>
      <PushButton kind="main" type="submit">Make it</PushButton>
    </form>
  </DoorFrame>
</template>
