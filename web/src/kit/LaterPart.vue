<script setup lang="ts">
import { useLater } from '@/composables/useLater'

/** A part of a page that is drawn a moment after the rest. */
const later = useLater()
</script>

<template><slot v-if="later" /></template>
