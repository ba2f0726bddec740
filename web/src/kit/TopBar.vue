<script setup lang="ts">
import { defineAsyncComponent, ref, type ComponentPublicInstance } from 'vue'
import { useRouter } from 'vue-router'
import { useDevice, type Scheme } from '@/composables/useDevice'
import { useMe } from '@/composables/useMe'
import { waiting } from '@/kept/outbox'
import PushButton from './PushButton.vue'
import SignalTag from './SignalTag.vue'

// The menu's parts are not needed to see a page.
const MeMenu = defineAsyncComponent(() => import('./MeMenu.vue'))
const name = ref<ComponentPublicInstance>()
const asked = ref(false)
const open = ref(false)
const device = useDevice()
const router = useRouter()
const { me, signOut } = useMe()
const places = [
  ['/today', 'My day'],
  ['/jobs', 'Jobs'],
  ['/due', 'Papers'],
  ['/stock', 'Stock'],
  ['/days', 'Days'],
] as const
const next: Record<Scheme, Scheme> = { light: 'dark', dark: 'sun', sun: 'light' }
const words: Record<Scheme, string> = { light: 'indoors', dark: 'cellar', sun: 'sunlight' }
async function leave() {
  const n = waiting.value.length
  const whose = me.value?.name ?? 'you'
  const said = `${n === 1 ? 'One thing' : `${n} things`} of ${whose} ${n === 1 ? 'is' : 'are'} not sent. They stay on this device, and are sent when ${whose} signs in here again.\nSign out all the same?`
  if (n && !window.confirm(said)) return
  await signOut()
  router.push('/sign-in')
}
</script>

<template>
  <header class="top">
    <router-link to="/jobs" class="brand" aria-label="Dogbolt, all jobs">
      <svg width="28" height="26" viewBox="0 0 32 30" aria-hidden="true">
        <path d="M9 3h14l7 12-7 12H9L2 15z" fill="none" stroke="#D98A55" stroke-width="2.4" />
        <path d="M13 17.5l7-5.5" stroke="#D98A55" stroke-width="2.6" stroke-linecap="round" />
      </svg>
      <b>Dogbolt</b>
    </router-link>
    <slot />
    <span class="grow" />
    <SignalTag v-if="me" />
    <nav v-if="me" class="places" aria-label="The firm">
      <router-link v-for="p in places" :key="p[0]" :to="p[0]">{{ p[1] }}</router-link>
    </nav>
    <PushButton
      kind="own"
      class="tag"
      :title="`Colours: ${words[device.scheme]}`"
      @click="device.scheme = next[device.scheme]"
    >
      {{ words[device.scheme] }}
    </PushButton>
    <PushButton
      kind="own"
      v-if="me"
      ref="name"
      class="tag"
      aria-haspopup="menu"
      :aria-expanded="open"
      :title="me.roles.join(', ')"
      @click="open = asked = true"
    >
      {{ me.name }}
    </PushButton>
    <MeMenu v-if="asked && name" v-model="open" :activator="name" :places="places" @leave="leave" />
  </header>
</template>

<style scoped>
.top {
  background: var(--top);
  color: var(--top-ink);
  display: flex;
  align-items: center;
  gap: clamp(8px, 1.2vw, 14px);
  padding: 0 18px;
  height: 56px;
  box-sizing: border-box;
}
.brand {
  display: flex;
  align-items: center;
  gap: 10px;
  color: inherit;
  text-decoration: none;
  font-size: 17px;
}
.places {
  display: flex;
  gap: 4px;
}
.places a {
  color: #d8d3c8;
  text-decoration: none;
  font-size: 13.5px;
  padding: 5px 9px;
  border-bottom: 2px solid transparent;
}
.places .router-link-active {
  color: var(--top-ink);
  border-bottom-color: #d98a55;
}
.tag {
  font: inherit;
  font-size: 13px;
  color: #d8d3c8;
  background: none;
  border: 1px solid #51606d;
  border-radius: 3px;
  padding: 3px 10px;
  min-height: 30px;
  cursor: pointer;
  white-space: nowrap;
}
@media (max-width: 719px) {
  .tag {
    min-height: var(--tap);
  }
  .top {
    padding: 0 12px;
    gap: 8px;
  }
  .brand b,
  .places {
    display: none;
  }
}
</style>
