<script setup lang="ts">
import KitStates from '@/kit/KitStates.vue'
import TopBar from '@/kit/TopBar.vue'

/** Every part of the kit in every state, in the three schemes side by side; on a phone one below the other. */
const schemes = ['light', 'dark', 'sun'] as const
</script>

<template>
  <TopBar />
  <main>
    <h1>The kit</h1>
    <div class="schemes">
      <div v-for="s in schemes" :key="s" :class="`scheme-${s}`"><KitStates :scheme="s" /></div>
    </div>
  </main>
</template>

<style scoped>
h1 {
  padding: 14px 16px;
}
.schemes {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
}
@media (max-width: 1023px) {
  .schemes {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
