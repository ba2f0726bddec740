<script setup lang="ts">
import type { Schemas } from '@/api/client'
import NumberField from '@/kit/NumberField.vue'
import TextField from '@/kit/TextField.vue'

const props = defineProps<{ index: number }>()
const part = defineModel<Schemas['Part']>({ required: true })
const emit = defineEmits<{ remove: [] }>()
const at = (field: string) => `plan.parts.${props.index}.${field}`
const toggle = () => (part.value.inHand = part.value.inHand === 'yes' ? 'no' : 'yes')
</script>

<template>
  <div class="part" :class="{ held: part.inHand === 'yes' }">
    <button
      type="button"
      class="tick"
      role="checkbox"
      :aria-checked="part.inHand === 'yes'"
      :aria-label="`${part.name} in hand`"
      @click="toggle"
    >
      {{ part.inHand === 'yes' ? '✓' : '' }}
    </button>
    <TextField v-model="part.name" :name="at('name')" label="Part" :hint="part.why" />
    <NumberField v-model="part.quantity" :name="at('quantity')" label="How many" :unit="part.unit" />
    <button class="btn plain" type="button" :aria-label="`Remove ${part.name}`" @click="emit('remove')">Remove</button>
  </div>
</template>

<style scoped>
.part {
  display: grid;
  grid-template-columns: 48px minmax(0, 1fr) 130px auto;
  gap: 10px;
  align-items: start;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
.tick,
.part > .btn {
  margin-top: 20px;
}
.tick {
  width: 44px;
  height: 44px;
  border: 2px solid var(--slate);
  border-radius: 3px;
  background: var(--field);
  font-size: 24px;
  line-height: 1;
  color: var(--card);
  cursor: pointer;
}
.held .tick {
  background: var(--sound);
  border-color: var(--sound);
}
@media (max-width: 719px) {
  .part {
    grid-template-columns: 48px minmax(0, 1fr) 110px;
  }
  .part > .btn {
    grid-column: 2;
    justify-self: start;
  }
}
</style>
