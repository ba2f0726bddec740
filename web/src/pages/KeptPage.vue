<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, onMounted } from 'vue'
import { ask, client, partly } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useMe } from '@/composables/useMe'
import EmptyState from '@/kit/EmptyState.vue'
import PushButton from '@/kit/PushButton.vue'
import RefusedActions from '@/kit/RefusedActions.vue'
import TopBar from '@/kit/TopBar.vue'
import { dayText, momentText } from '@/kit/dates'
import { clockWrong } from '@/kept/clock'
import { signal } from '@/kept/fetch'
import { look, looked, low, othersWaiting, waiting } from '@/kept/outbox'
import { shareSent } from '@/kept/photos'
import { enterAnew } from '@/kept/press'
import { ended } from '@/kept/person'
import { send, sending, stopped } from '@/kept/sender'
import { promised } from '@/kept/store'
import { newVersion, takeNewVersion } from '@/kept/version'

/** What is on this device: the jobs it carries, what it has not sent, what was refused, and the room that is left. */
const jobs = useQuery({ queryKey: ['mine'], queryFn: () => ask(client.GET('/api/mine')) })
const page = (i: (typeof waiting.value)[number]) => `/jobs/${i.job}/${i.section?.name ?? 'install'}`
const refused = computed(() => waiting.value.filter((i) => i.refused).length)
const { me } = useMe()
const { attempt, wrong } = useAttempt()
const anew = (i: (typeof waiting.value)[number]) =>
  attempt(
    () => enterAnew(i, { name: me.value!.name, verifier: me.value!.roles.includes('verifier') }),
    '',
    `${i.what}: `,
  )
const mark = (i: (typeof waiting.value)[number]) => {
  const share = shareSent.value[i.seq]
  if (i.refused?.status === partly) return '◐ in part'
  return i.refused ? '× refused' : share ? `○ ${Math.round(share * 100)} % sent` : '○ kept'
}
const promises = {
  '': '',
  lasting: 'This browser keeps what is entered here until it is sent or put away.',
  clearable: 'This browser may clear what is kept here when the phone needs room, or the page was not used for weeks.',
  nothing: 'Nothing can be kept on this device, as in a private window.',
}
onMounted(look)
</script>

<template>
  <TopBar />
  <main class="page">
    <header class="row">
      <h1>On this device</h1>
      <span class="quiet" role="status" data-kept>
        {{ !looked ? 'looking…' : waiting.length ? `${waiting.length} not sent` : 'everything is sent'
        }}{{ refused ? `, ${refused} refused` : '' }}
      </span>
      <span class="grow" />
      <PushButton :disabled="sending || !waiting.length" @click="send">
        {{ sending ? 'sending…' : 'Send now' }}
      </PushButton>
    </header>
    <p v-if="!signal" class="heed watch">No signal. Go on working: everything is kept here and sent in order.</p>
    <p v-else-if="ended || stopped === 'sign in'" class="heed stop">
      The server does not know you any more: nothing is sent. <router-link to="/sign-in">Sign in</router-link>; what you
      entered stays here meanwhile.
    </p>
    <p v-if="clockWrong" class="heed watch" data-clock>
      This device’s {{ clockWrong }}, by the server’s. What is logged is stamped with the server’s time as it was last
      learnt; set the clock all the same: without signal nothing else tells the time.
    </p>
    <p v-if="newVersion" class="heed watch" data-version>
      A newer version of these pages is on the device. It is taken between two pages, when nothing waits to be sent;
      what waits stays in any case.
      <PushButton kind="plain" @click="takeNewVersion()">Take it now</PushButton>
    </p>
    <p v-if="low" class="heed stop">
      Little room is left on this device. Send what waits, or free some, before you take photos.
    </p>
    <section class="card">
      <h2>Not sent</h2>
      <EmptyState v-if="!waiting.length" title="Nothing waits" text="What is entered without signal stands here." />
      <p v-if="wrong" class="heed stop" role="alert">{{ wrong }}</p>
      <ol v-if="waiting.length" class="list">
        <li v-for="i in waiting" :key="i.seq" :data-waiting="i.kind" :class="{ refused: i.refused }">
          <span class="mono">{{ momentText(i.at) }}</span>
          <span>
            <router-link :to="page(i)">{{ i.number }}</router-link> {{ i.what }}
            <span v-if="i.refused" class="why">
              {{ i.refused.status === partly ? 'not saved with the rest' : 'refused' }}: {{ i.refused.message }}
            </span>
          </span>
          <span class="mark">{{ mark(i) }}</span>
          <RefusedActions v-if="i.refused" :item="i" @anew="anew(i)" />
        </li>
      </ol>
    </section>
    <section v-if="Object.keys(othersWaiting).length" class="card" data-others>
      <h2>Waiting for others who use this device</h2>
      <p v-for="(n, name) in othersWaiting" :key="name" class="heed watch">
        {{ n }} {{ n === 1 ? 'thing' : 'things' }} of <b>{{ name }}</b>: sent in their name when they sign in here.
      </p>
    </section>
    <section class="card">
      <h2>What this device promises</h2>
      <p class="quiet">
        {{ promises[promised] }} Nothing is sent while the page is closed: open it where there is signal.
      </p>
    </section>
    <section class="card">
      <h2>Carried: your next jobs open here without signal</h2>
      <ul class="list">
        <li v-for="j in jobs.data.value" :key="j.id">
          <span class="mono">{{ j.nextDate ? dayText(j.nextDate) : 'no date' }}</span>
          <span
            ><router-link :to="`/jobs/${j.id}`">{{ j.number }}</router-link> {{ j.address }}, {{ j.town }}</span
          >
        </li>
      </ul>
    </section>
  </main>
</template>

<style scoped>
.page {
  padding: 18px;
  max-width: 860px;
  margin: 0 auto;
}
h2 {
  margin: 0 0 6px;
}
.card {
  margin-top: 12px;
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
}
.list li {
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr) auto auto;
  gap: 4px 12px;
  align-items: center;
  min-height: var(--tap);
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
  font-size: 14px;
}
.why {
  display: block;
  color: var(--stop);
}
@media (max-width: 719px) {
  .list li {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .list .mono {
    grid-column: 1 / -1;
  }
}
</style>
