<script setup lang="ts">
import { computed, watchEffect } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useDevice } from '@/composables/useDevice'
import { useMe } from '@/composables/useMe'
import { beginCarrying } from '@/kept/carry'
import EmptyState from '@/kit/EmptyState.vue'

const route = useRoute()
const router = useRouter()
const device = useDevice()
const { query, me } = useMe()
const open = computed(() => route.path === '/sign-in' || route.path === '/setup')

watchEffect(() => {
  document.documentElement.className = device.schemeClass
})
watchEffect(() => {
  if (me.value) beginCarrying(me.value.role !== 'office')
})
watchEffect(() => {
  if (query.isSuccess.value && !me.value && !open.value && route.matched.length) {
    router.replace({ path: '/sign-in', query: { to: route.fullPath } })
  }
})
</script>

<template>
  <v-app :class="device.schemeClass">
    <EmptyState
      v-if="query.isError.value && !open"
      title="The server does not answer"
      text="Check that the program is running and that this device reaches it, then try again."
    >
      <button class="btn main" type="button" @click="query.refetch()">Try again</button>
    </EmptyState>
    <router-view v-else-if="me || open" />
  </v-app>
</template>
