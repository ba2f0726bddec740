<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { store } from '@/kept/store'

/** Says before the first entry what this browser does not promise to keep. */
const words = ref('')
const told = ref(localStorage.getItem('told-storage') !== null)
onMounted(async () => {
  try {
    await store.open()
    const kept = (await navigator.storage?.persisted?.()) ?? false
    const phone = window.matchMedia('(pointer: coarse)').matches
    if (!kept && phone)
      words.value =
        'This browser does not promise to keep what is entered here: where the phone needs room, or is not used for weeks, it may be cleared. Send what waits the same day.'
  } catch {
    told.value = false
    words.value = 'Nothing can be kept on this device, as in a private window: without signal nothing is entered here.'
  }
})
function understood() {
  localStorage.setItem('told-storage', '1')
  told.value = true
}
</script>

<template>
  <aside v-if="words && !told" class="notice" data-storage>
    <span>{{ words }}</span>
    <button class="btn plain" type="button" @click="understood">Understood</button>
  </aside>
</template>

<style scoped>
.notice {
  border-left: 4px solid var(--watch);
  background: var(--card);
  padding: 8px 12px;
  margin-bottom: 12px;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 14px;
  font-size: 13.5px;
}
</style>
