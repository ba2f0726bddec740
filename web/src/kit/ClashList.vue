<script setup lang="ts">
import { computed, reactive } from 'vue'
import type { Clash, Schemas } from '@/api/client'
import PushButton from './PushButton.vue'

/** Fields that two people changed to different values: each is chosen on its own, nothing is chosen for anybody. */
const props = defineProps<{ reason: string; clashes: Clash[] }>()
const emit = defineEmits<{ settle: [Schemas['Choice'][]] }>()
const taken = reactive<Record<string, 'mine' | 'theirs'>>({})
const left = computed(() => props.clashes.filter((c) => !taken[c.field]).length)
const say = (v: unknown) =>
  v === null || v === undefined || v === '' ? 'nothing' : typeof v === 'object' ? JSON.stringify(v) : String(v)
const settle = () =>
  emit(
    'settle',
    props.clashes.map((c) => ({ field: c.field, take: taken[c.field], seen: c.theirs })),
  )
</script>

<template>
  <div class="clashes">
    <p>
      <b>{{ reason }}.</b> Everything else of both was joined; what you typed is still here.
    </p>
    <div
      v-for="c in clashes"
      :key="c.field"
      class="field"
      role="radiogroup"
      :aria-label="c.title"
      :data-clash="c.field"
    >
      <b>{{ c.title || c.field }}</b>
      <p class="quiet">both began from {{ say(c.base) }}</p>
      <label v-for="who in ['mine', 'theirs'] as const" :key="who" :class="{ on: taken[c.field] === who }">
        <input v-model="taken[c.field]" type="radio" :name="c.field" :value="who" />
        {{ who === 'mine' ? 'yours' : 'theirs' }} <b class="mono">{{ say(c[who]) }}</b>
      </label>
    </div>
    <PushButton :disabled="left > 0" @click="settle">
      {{ left ? `${left} to choose` : 'Save so' }}
    </PushButton>
  </div>
</template>

<style scoped>
.clashes {
  display: grid;
  gap: 10px;
  width: 100%;
}
.field {
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--card);
  padding: 6px 12px 10px;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
}
.field p,
.field > b {
  flex-basis: 100%;
  font-size: 12.5px;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: var(--tap);
  padding: 2px 12px;
  border: 1px solid var(--line);
  border-radius: 3px;
  flex: 1 1 200px;
}
.on {
  border-color: var(--copper);
  background: var(--band);
}
.btn {
  justify-self: start;
}
</style>
