<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { onMounted, ref } from 'vue'
import { useNarrow } from '@/composables/useWidth'
import { useDevice } from '@/composables/useDevice'

/** Big keys for readings on a phone, in gloves: they write into the reading's field that has the focus. */
const keys = ['1', '2', '3', '>', '4', '5', '6', 'k', '7', '8', '9', 'm', '.', '0', '⌫'] as const
const on = ref(false)
const narrow = useNarrow()
const device = useDevice()
/** What the tester in hand shows where it is past its range: as it was last entered in the unit, or the letters. */
const beyond = ref('OL')
const field = () => {
  const e = document.activeElement
  return e instanceof HTMLInputElement && e.dataset.entry !== undefined ? e : undefined
}
// A field that was just committed gives its focus to the next: look once both have happened.
const look = () =>
  window.setTimeout(() => {
    const e = field()
    on.value = narrow.value && !!e
    beyond.value = device.past(e?.dataset.unit ?? '') ?? 'OL'
  })
function press(key: string) {
  const e = field()
  if (!e) return
  if (key === 'enter') e.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }))
  else {
    const v = e.value
    const point = key === '.' && (v === '' || v === '>')
    e.value = key === '⌫' ? v.slice(0, -1) : key === 'past' ? beyond.value : v + (point ? '0.' : key)
    e.dispatchEvent(new Event('input', { bubbles: true }))
  }
}
useEventListener(document, ['focusin', 'focusout'], look)
onMounted(look) // somebody may have pressed a field before the keys were there
</script>

<template>
  <div v-if="on" class="pad" role="group" aria-label="Keys for readings" @pointerdown.prevent @mousedown.prevent>
    <button v-for="k in keys" :key="k" type="button" tabindex="-1" :data-key="k" @click="press(k)">{{ k }}</button>
    <button type="button" tabindex="-1" data-key="past" @click="press('past')">{{ beyond }}</button>
    <button class="enter" type="button" tabindex="-1" data-key="enter" @click="press('enter')">Enter, next</button>
  </div>
</template>

<style scoped>
.pad {
  position: fixed;
  inset: auto 0 0 0;
  z-index: 20;
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px;
  padding: 8px;
  background: var(--band);
  border-top: 2px solid var(--ink);
}
button {
  font: inherit;
  font-family: 'Plex Mono', monospace;
  font-size: 20px;
  min-height: 50px;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 3px;
}
.enter {
  grid-column: 1 / -1;
  font-family: inherit;
  font-size: 16px;
  font-weight: 600;
  color: var(--on-copper, #fff);
  background: var(--copper);
  border-color: var(--copper);
}
</style>
