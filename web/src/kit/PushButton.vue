<script setup lang="ts">
/** A button, Vuetify's under our look: outlined, filled for the one thing to do, plain beside it, a word of its sentence, or as its page draws it. */
const { kind = '' } = defineProps<{ kind?: '' | 'main' | 'plain' | 'word' | 'own' }>()
</script>

<template>
  <v-btn :class="kind === 'own' ? [] : kind === 'word' ? ['link'] : ['btn', kind]"><slot /></v-btn>
</template>
