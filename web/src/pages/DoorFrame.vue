<script setup lang="ts">
import BoltMark from '@/kit/BoltMark.vue'
import { stages } from '@/router'

/** The door before the program: the seven bolts, and one form. */
defineProps<{ title: string }>()
</script>

<template>
  <div class="door">
    <div class="bolts" aria-hidden="true">
      <BoltMark v-for="(s, i) in stages" :key="s" :state="i < 2 ? 'tight' : i === 2 ? 'part' : 'hollow'" :size="34" />
    </div>
    <div class="panel">
      <p class="name"><b>Dogbolt</b> <span class="quiet">charging points, from survey to sealed record</span></p>
      <h1>{{ title }}</h1>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.door {
  min-height: 100vh;
  display: grid;
  grid-template-columns: auto minmax(0, 400px);
  justify-content: center;
  align-content: center;
  gap: 40px;
  padding: 20px;
  box-sizing: border-box;
  --bolt-ground: var(--paper);
}
.bolts {
  display: flex;
  flex-direction: column;
  justify-content: space-between;
  gap: 14px;
}
.panel {
  display: flex;
  flex-direction: column;
  justify-content: center;
  gap: 18px;
}
:slotted(.fields) {
  display: grid;
  gap: 14px;
}
:slotted(.error) {
  color: var(--stop);
  font-weight: 600;
}
.name {
  display: flex;
  flex-direction: column;
}
.name b {
  font-size: 22px;
}
@media (max-width: 719px) {
  .door {
    grid-template-columns: 1fr;
    align-content: start;
    gap: 26px;
  }
  .bolts {
    flex-direction: row;
  }
}
</style>
