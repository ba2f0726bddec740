<script setup lang="ts">
import CheckField from './CheckField.vue'
import { roles, type Role } from './roles'

/** What a person is in the firm: one or several, each with what it may do. */
const props = defineProps<{ always?: Role; error?: string }>()
const model = defineModel<Role[]>({ required: true })
function toggle(r: Role) {
  if (r === props.always) return
  model.value = model.value.includes(r) ? model.value.filter((o) => o !== r) : [...model.value, r]
}
</script>

<template>
  <fieldset class="roles">
    <legend>What this person does in the firm; several where one person does several</legend>
    <CheckField
      v-for="r in roles"
      :key="r.value"
      :name="`role-${r.value}`"
      :model-value="model.includes(r.value)"
      :disabled="r.value === always"
      @update:model-value="toggle(r.value)"
    >
      <span
        ><b>{{ r.value }}</b> <span class="quiet">{{ r.may }}</span></span
      >
    </CheckField>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
  </fieldset>
</template>

<style scoped>
.roles {
  border: 0;
  margin: 0;
  padding: 0;
  grid-column: 1 / -1;
}
legend {
  padding: 0;
  margin-bottom: 4px;
  color: var(--slate);
  font-size: 13px;
}
</style>
