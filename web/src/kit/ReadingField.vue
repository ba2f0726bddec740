<script setup lang="ts">
/**
 * The field of a reading: the browser's own, because the big keys of a phone write into it, in gloves, and each key
 * is answered at once on the slowest phone.
 */
defineProps<{ entry: string; unit?: string; words?: boolean; keys: boolean; changed: boolean; off: boolean }>()
const model = defineModel<string>()
</script>

<template>
  <input
    v-model="model"
    class="reading mono"
    :class="{ changed, words }"
    :inputmode="words ? 'text' : keys ? 'none' : 'decimal'"
    :data-entry="entry"
    :data-unit="unit"
    :readonly="off"
    autocomplete="off"
  />
</template>

<style scoped>
.reading {
  text-align: right;
  width: 104px;
}
.changed {
  border-color: var(--copper);
}
.words {
  width: 140px;
  text-align: left;
}
</style>
