<script setup lang="ts">
import { drop, type waiting } from '@/kept/outbox'
import { tryAgain } from '@/kept/sender'
import PushButton from './PushButton.vue'

/** What can be done about a thing that was not taken. */
const props = defineProps<{ item: (typeof waiting.value)[number] }>()
const emit = defineEmits<{ anew: [] }>()
const away = () =>
  window.confirm(`Put away what was not taken: ${props.item.what}? It is gone then.`) && drop(props.item.seq)
</script>

<template>
  <span class="row">
    <PushButton v-if="item.entries" data-anew @click="emit('anew')">Enter anew, now</PushButton>
    <PushButton kind="plain" data-again @click="tryAgain(item.seq)">Try again</PushButton>
    <PushButton kind="plain" @click="away">Put away</PushButton>
  </span>
</template>
