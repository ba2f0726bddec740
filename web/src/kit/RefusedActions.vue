<script setup lang="ts">
import { drop, type waiting } from '@/kept/outbox'
import { tryAgain } from '@/kept/sender'

/** What can be done about a thing that was not taken. */
const props = defineProps<{ item: (typeof waiting.value)[number] }>()
const emit = defineEmits<{ anew: [] }>()
const away = () =>
  window.confirm(`Put away what was not taken: ${props.item.what}? It is gone then.`) && drop(props.item.seq)
</script>

<template>
  <span class="row">
    <button v-if="item.entries" class="btn" type="button" data-anew @click="emit('anew')">Enter anew, now</button>
    <button class="btn plain" type="button" data-again @click="tryAgain(item.seq)">Try again</button>
    <button class="btn plain" type="button" @click="away">Put away</button>
  </span>
</template>
