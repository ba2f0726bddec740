<script setup lang="ts">
import { useTemplateRef } from 'vue'

/**
 * A line to type in, Vuetify's under our look, without a frame: what stands beside it says what it is, or `label` says
 * it to who hears the page.
 */
defineProps<{ label?: string; labelledby?: string; mono?: boolean }>()
const model = defineModel<string>()
const field = useTemplateRef('field')
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <v-text-field ref="field" v-model="model" :class="{ mono }" :aria-label="label" :aria-labelledby="labelledby" />
</template>
