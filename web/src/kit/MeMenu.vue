<script setup lang="ts">
import { useMe } from '@/composables/useMe'
import type { ComponentPublicInstance } from 'vue'
import PushButton from './PushButton.vue'

/** What the name at the top opens: the rest of the program, and the way out. It comes when it is first asked for. */
defineProps<{ activator: ComponentPublicInstance; places: readonly (readonly [string, string])[] }>()
defineEmits<{ leave: [] }>()
const open = defineModel<boolean>({ required: true })
const { may, me } = useMe()
</script>

<template>
  <v-menu v-model="open" :activator="activator" :open-on-click="false">
    <nav class="menu">
      <span class="quiet">{{ me?.roles.join(', ') }}</span>
      <router-link v-for="p in places" :key="p[0]" class="narrow" :to="p[0]">{{ p[1] }}</router-link>
      <router-link to="/account">Password and devices</router-link>
      <router-link to="/firm">People and firm</router-link>
      <router-link to="/practice">Practice</router-link>
      <router-link to="/kept">On this device</router-link>
      <router-link v-if="may('view the audit')" to="/audit">Who did what</router-link>
      <router-link to="/verify">Check a sealed file</router-link>
      <a href="api/docs" target="_blank">Operations</a>
      <PushButton kind="own" @click="$emit('leave')">Sign out</PushButton>
    </nav>
  </v-menu>
</template>

<style scoped>
.menu {
  background: var(--card);
  color: var(--ink);
  border: 1px solid var(--line);
  border-radius: 4px;
  padding: 6px 0;
  display: flex;
  flex-direction: column;
  min-width: 190px;
}
.menu > * {
  padding: 8px 14px;
  color: var(--ink);
  text-decoration: none;
  text-align: left;
  background: none;
  border: 0;
  font: inherit;
  cursor: pointer;
}
.menu > :hover {
  background: var(--band);
}
.narrow {
  display: none;
}
@media (max-width: 719px) {
  .menu .narrow {
    display: block;
  }
}
</style>
