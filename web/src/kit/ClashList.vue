<script setup lang="ts">
import { computed, reactive } from 'vue'
import type { Clash, Schemas } from '@/api/client'
import PressBars from './PressBars.vue'
import PushButton from './PushButton.vue'

/** Fields that two people changed to different values: each is chosen on its own, nothing is chosen for anybody. */
const props = defineProps<{ reason: string; clashes: Clash[] }>()
const emit = defineEmits<{ settle: [Schemas['Choice'][]] }>()
const taken = reactive<Record<string, 'mine' | 'theirs'>>({})
const left = computed(() => props.clashes.filter((c) => !taken[c.field]).length)
const say = (v: unknown) =>
  v === null || v === undefined || v === '' ? 'nothing' : typeof v === 'object' ? JSON.stringify(v) : String(v)
const sides = (c: Clash) => [
  { value: 'mine' as const, text: `yours ${say(c.mine)}` },
  { value: 'theirs' as const, text: `theirs ${say(c.theirs)}` },
]
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
    <div v-for="c in clashes" :key="c.field" class="field" :data-clash="c.field">
      <b>{{ c.title || c.field }}</b>
      <p class="quiet">both began from {{ say(c.base) }}</p>
      <PressBars
        :label="c.title"
        :options="sides(c)"
        :chosen="taken[c.field]"
        @press="(who) => (taken[c.field] = who)"
      />
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
.field > b,
.field .bars {
  flex-basis: 100%;
  font-size: 12.5px;
}
.btn {
  justify-self: start;
}
</style>
