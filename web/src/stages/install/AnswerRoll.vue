<script setup lang="ts">
import { computed, ref } from 'vue'
import { useDesk } from '@/composables/useJob'

/** Nobody switches on until everyone on the job has answered. */
defineProps<{ off: boolean }>()
const emit = defineEmits<{ answered: [string] }>()
const desk = useDesk()
const crew = computed(() => desk.view.job.plan?.crew ?? [])
const answered = ref<string[]>([])
function toggle(n: string) {
  answered.value = answered.value.includes(n) ? answered.value.filter((x) => x !== n) : [...answered.value, n]
}
const all = computed(() => crew.value.length > 0 && crew.value.every((n) => answered.value.includes(n)))
</script>

<template>
  <div class="roll">
    <p v-if="!crew.length" class="quiet">No crew is set in the plan yet.</p>
    <button
      v-for="n in crew"
      :key="n"
      type="button"
      class="btn plain name"
      :class="{ on: answered.includes(n) }"
      :aria-pressed="answered.includes(n)"
      :disabled="off"
      @click="toggle(n)"
    >
      {{ answered.includes(n) ? '✓' : '○' }} {{ n }} answers: clear
    </button>
    <button class="btn main" type="button" :disabled="off || !all" @click="emit('answered', answered.join(', '))">
      Everyone answered: switched on
    </button>
  </div>
</template>

<style scoped>
.roll {
  display: grid;
  gap: 8px;
}
.btn {
  min-height: 52px;
}
.name {
  justify-content: flex-start;
}
.on {
  background: var(--sound-soft);
  border-color: var(--sound);
  color: var(--ink);
}
</style>
