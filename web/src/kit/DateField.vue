<script setup lang="ts">
import { computed, ref } from 'vue'
import { localDay, weekdayText } from './dates'
import DayLine from './DayLine.vue'
import FieldFrame from './FieldFrame.vue'
import PushButton from './PushButton.vue'

/** A day: typed as the country of the job writes it, or today by one press. */
const props = defineProps<{ name: string; label: string; hint?: string; error?: string; disabled?: boolean }>()
const model = defineModel<string>()
const wrong = ref('')
const beside = computed(() => props.hint || (model.value ? weekdayText(model.value).split(' ')[0] : ''))
</script>

<template>
  <FieldFrame v-slot="{ id, labelledby, bad }" :name="name" :label="label" :hint="beside" :error="wrong || error">
    <span class="day">
      <DayLine
        :id="id"
        v-model="model"
        v-model:wrong="wrong"
        :labelledby="labelledby"
        :disabled="disabled"
        :aria-invalid="bad"
      />
      <PushButton
        v-if="!model && !disabled"
        kind="word"
        :aria-label="`${label}: today`"
        @click="model = localDay(new Date())"
      >
        today
      </PushButton>
    </span>
  </FieldFrame>
</template>

<style scoped>
.day {
  display: flex;
  gap: 10px;
  align-items: center;
}
.day .v-input {
  flex: 1;
}
.link {
  min-height: var(--tap);
}
</style>
