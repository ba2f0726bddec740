<script setup lang="ts">
import { computed, inject, ref } from 'vue'
import { fieldErrors, limitClashes } from '@/composables/useSection'

/** Label, error and hint around one field. The field's name is its place in the job document. */
const props = defineProps<{ name: string; label: string; hint?: string; error?: string; wide?: boolean }>()
const errors = inject(fieldErrors, ref<Record<string, string>>({}))
const clashes = inject(limitClashes, ref<Record<string, string>>({}))
const message = computed(() => props.error || errors.value[props.name])
</script>

<template>
  <div class="frame" :class="{ bad: message, wide }" :data-field="name">
    <label :id="`${name}-label`" :for="name">{{ label }}</label>
    <slot :id="name" :labelledby="`${name}-label`" :bad="!!message" />
    <span v-if="message" class="error" role="alert">{{ message }}</span>
    <span v-else-if="clashes[name]" class="clash" data-limits>× {{ clashes[name] }}</span>
    <span v-else-if="hint" class="hint">{{ hint }}</span>
  </div>
</template>

<style scoped>
.frame {
  display: flex;
  flex-direction: column;
  gap: 3px;
  min-width: 0;
  scroll-margin: 120px;
}
.wide {
  grid-column: 1 / -1;
}
label {
  font-size: 12.5px;
  color: var(--ink2);
}
.hint {
  font-size: 12px;
  color: var(--slate);
}
.clash {
  font-size: 12.5px;
  color: var(--stop);
}
.error {
  font-size: 12.5px;
  color: var(--stop);
  font-weight: 600;
}
.frame.bad :deep(input),
.frame.bad :deep(select) {
  border-color: var(--stop);
  border-width: 2px;
}
.frame.flash :deep(input),
.frame.flash :deep(select),
.frame.flash :deep(button) {
  outline: 2px solid var(--copper);
}
</style>
