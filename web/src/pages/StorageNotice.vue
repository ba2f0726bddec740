<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { promised, promisedBefore } from '@/kept/store'
import PushButton from '@/kit/PushButton.vue'

/** Says before the first entry what this browser does not promise to keep. */
const phone = window.matchMedia('(pointer: coarse)').matches
const told = ref(localStorage.getItem('told-storage') !== null)
// What the browser said last stands until it answers, and a notice that is there until the page is left, or the page
// would jump before one's eyes. Only a worse answer is told at once.
const now = ref(promised.value || promisedBefore)
watch(promised, (p) => {
  if (!now.value || p === 'nothing') now.value = p
})
const words = computed(() => {
  if (now.value === 'nothing')
    return 'Nothing can be kept on this device, as in a private window. Nothing can be entered here: open the page in an ordinary window.'
  if (now.value !== 'clearable' || !phone || told.value) return ''
  return 'This browser does not promise to keep what is entered here: where the phone needs room, or is not used for weeks, it may be cleared. Send what waits the same day.'
})
function understood() {
  localStorage.setItem('told-storage', '1')
  told.value = true
}
</script>

<template>
  <aside v-if="words" class="notice" data-storage>
    <span>{{ words }}</span>
    <PushButton kind="plain" v-if="now !== 'nothing'" @click="understood">Understood</PushButton>
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
