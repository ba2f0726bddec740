<script setup lang="ts">
import { computed, watch, watchEffect } from 'vue'
import { useIsFetching, useQueryClient } from '@tanstack/vue-query'
import { useRoute, useRouter } from 'vue-router'
import { useDevice } from '@/composables/useDevice'
import { useMe } from '@/composables/useMe'
import { beginCarrying, beginSending } from '@/kept/carry'
import { onArrived, originOf } from '@/kept/fetch'
import { closed, displaced } from '@/kept/person'
import { keepPages } from '@/kept/version'
import EmptyState from '@/kit/EmptyState.vue'
import PushButton from '@/kit/PushButton.vue'

const route = useRoute()
const router = useRouter()
const device = useDevice()
const { query, me, shut } = useMe()
const open = computed(
  () => ['/sign-in', '/setup', '/link', '/verify'].includes(route.path) || route.path.startsWith('/open/'),
)

// What the device answered is asked for again when the server's own answer has come.
const queries = useQueryClient()
onArrived((address) =>
  queries.invalidateQueries({ predicate: (q) => originOf(q.state.data) === address, refetchType: 'active' }),
)
watchEffect(() => {
  if (closed.value) void shut().then(() => router.replace('/sign-in'))
})
const reload = () => location.reload()
watchEffect(() => {
  document.documentElement.className = device.schemeClass
})
watchEffect(() => {
  if (me.value) beginSending()
})
// What the device keeps for later waits until the page has what it shows.
const asks = useIsFetching()
let timer = 0
watch(
  [me, asks],
  () => {
    window.clearTimeout(timer)
    if (me.value && !asks.value) timer = window.setTimeout(later, 500)
  },
  { immediate: true },
)
function later() {
  if (!me.value) return
  beginCarrying(me.value.roles.some((r) => r !== 'office'))
  void keepPages()
}
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
      <PushButton kind="main" @click="query.refetch()">Try again</PushButton>
    </EmptyState>
    <div v-else-if="me || open" :inert="displaced"><router-view /></div>
    <div v-if="displaced" class="displaced" role="alertdialog" aria-labelledby="displaced" data-displaced>
      <section class="card">
        <h2 id="displaced">Somebody else signed in on this device</h2>
        <p>
          This page was <b>{{ me?.name }}’s</b>. Nothing more is written from it. What was kept and not sent stays on
          this device, and is sent in {{ me?.name }}’s name when {{ me?.name }} signs in again.
        </p>
        <PushButton kind="main" @click="reload">Go on as who is signed in now</PushButton>
      </section>
    </div>
  </v-app>
</template>

<style scoped>
.displaced {
  position: fixed;
  inset: 0;
  z-index: 3000;
  display: grid;
  place-items: center;
  padding: 16px;
  background: color-mix(in srgb, var(--ink) 55%, transparent);
}
.displaced .card {
  max-width: 440px;
  border-left: 4px solid var(--watch);
}
h2 {
  font-size: 18px;
  font-weight: 600;
  margin: 0 0 8px;
}
p {
  margin: 0 0 14px;
}
</style>
