<script setup lang="ts">
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useMe } from '@/composables/useMe'
import TextField from '@/kit/TextField.vue'
import DoorFrame from './DoorFrame.vue'

const route = useRoute()
const router = useRouter()
const { signIn } = useMe()
const username = ref('')
const password = ref('')
const error = ref('')
const busy = ref(false)

async function submit() {
  busy.value = true
  error.value = ''
  try {
    await signIn(username.value, password.value)
    router.replace(String(route.query.to ?? '/jobs'))
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = false
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
      <button class="btn main" type="submit" :disabled="busy">Sign in</button>
    </form>
  </DoorFrame>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 14px;
}
</style>
