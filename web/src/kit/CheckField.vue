<script setup lang="ts">
/** Yes or no, Vuetify's under our look; the words beside it are its label. */
const model = defineModel<boolean>()
</script>

<template>
  <v-checkbox-btn v-model="model">
    <template #label><slot /></template>
  </v-checkbox-btn>
</template>
