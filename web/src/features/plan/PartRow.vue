<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import ListField from '@/kit/ListField.vue'
import NumberField from '@/kit/NumberField.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { supplies } from '../options'

const props = defineProps<{ index: number }>()
const part = defineModel<Schemas['Part']>({ required: true })
const emit = defineEmits<{ remove: [] }>()
const at = (field: string) => `plan.parts.${props.index}.${field}`
/** A tool belongs to the van: it is there unless somebody says that it is not. */
const held = computed(() => (part.value.tool ? part.value.inHand !== 'no' : part.value.inHand === 'yes'))
/** Where it stands, or that the customer brings it: one answer. */
const where = computed({
  get: () => part.value.by ?? part.value.supply,
  set: (w) => {
    part.value.by = w === 'customer' ? w : undefined
    part.value.supply = w === 'customer' ? undefined : w
  },
})
function toggle() {
  part.value.inHand = held.value ? 'no' : 'yes'
  if (held.value) part.value.supply = undefined
}
</script>

<template>
  <div class="part" :class="{ held }" :data-part="part.name">
    <PushButton
      kind="own"
      class="tick"
      role="checkbox"
      :aria-checked="held"
      :aria-label="`${part.name} ${part.tool ? 'in the van' : 'in hand'}`"
      @click="toggle"
    >
      {{ held ? '✓' : '' }}
    </PushButton>
    <div>
      <TextField v-model="part.name" :name="at('name')" label="Part" :hint="part.why" />
      <details v-if="part.says?.length" class="says" :data-says="part.name">
        <summary>{{ part.says.length }} {{ part.says.length === 1 ? 'label' : 'labels' }}, line by line</summary>
        <ul>
          <li v-for="s in part.says" :key="s">{{ s }}</li>
        </ul>
      </details>
    </div>
    <NumberField v-model="part.quantity" :name="at('quantity')" label="How many" :unit="part.unit" />
    <div class="where">
      <span class="label">{{ part.tool ? 'In the van' : held ? 'In hand' : 'Not in hand' }}</span>
      <span v-if="part.tool" class="from">{{ held ? 'belongs to it' : 'not there' }}</span>
      <span v-else-if="held" class="from">{{ part.by ? 'the customer’s own' : part.from || 'ticked by hand' }}</span>
      <ListField
        v-else
        v-model="where"
        :options="[...supplies, { value: 'customer' as const, text: 'the customer brings it' }]"
        empty="not ordered"
        :label="`${part.name}: where it stands`"
      />
    </div>
    <PushButton kind="plain" :aria-label="`Remove ${part.name}`" @click="emit('remove')">Remove</PushButton>
  </div>
</template>

<style scoped>
.part {
  display: grid;
  grid-template-columns: 48px minmax(0, 1fr) 104px 140px auto;
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
.says summary {
  display: flex;
  align-items: center;
  min-height: var(--tap);
  font-size: 13px;
  cursor: pointer;
}
.says ul {
  margin: 0 0 6px;
  padding-left: 18px;
  font-size: 13px;
}
.where {
  display: flex;
  flex-direction: column;
  gap: 3px;
}
.label {
  font-size: 12.5px;
  color: var(--ink2);
}
.from {
  font-size: 13px;
  padding-top: 8px;
}
@media (max-width: 719px) {
  .part {
    grid-template-columns: 48px minmax(0, 1fr) 104px;
  }
  .where,
  .part > .btn {
    grid-column: 2 / -1;
    margin-top: 0;
    justify-self: start;
  }
}
</style>
