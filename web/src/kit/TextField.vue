<script setup lang="ts">
import { ref } from 'vue'
import FieldFrame from './FieldFrame.vue'
import LineField from './LineField.vue'
import PushButton from './PushButton.vue'

defineProps<{
  name: string
  label: string
  hint?: string
  type?: string
  wide?: boolean
  disabled?: boolean
  mono?: boolean
  autocomplete?: string
  error?: string
}>()
const model = defineModel<string>()
const shown = ref(false) // what is typed as a password
</script>

<template>
  <FieldFrame v-slot="{ id, labelledby, bad }" :name="name" :label="label" :hint="hint" :wide="wide" :error="error">
    <LineField
      :id="id"
      v-model="model"
      :labelledby="labelledby"
      :type="shown ? 'text' : (type ?? 'text')"
      :mono="mono"
      :disabled="disabled"
      :aria-invalid="bad"
      :autocomplete="autocomplete"
    />
    <PushButton
      kind="own"
      v-if="type === 'password' && model"
      class="show"
      :aria-pressed="shown"
      :aria-label="`Show: ${label}`"
      @click="shown = !shown"
    >
      {{ shown ? 'hide' : 'show' }}
    </PushButton>
  </FieldFrame>
</template>

<style scoped>
.show {
  align-self: flex-start;
  font: inherit;
  font-size: 12.5px;
  color: var(--slate);
  background: none;
  border: 0;
  padding: 4px 0;
  min-height: 32px;
  text-decoration: underline;
  cursor: pointer;
}
</style>
