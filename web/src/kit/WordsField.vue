<script setup lang="ts">
/** Some lines of words, Vuetify's under our look. */
defineProps<{ label: string }>()
const model = defineModel<string>()
</script>

<template>
  <v-textarea v-model="model" rows="2" :aria-label="label" :aria-labelledby="undefined" />
</template>
