<script setup lang="ts">
import { computed } from 'vue'
import type { Entry } from '@/api/client'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import PushButton from '@/kit/PushButton.vue'
import { clockText } from '@/kit/dates'

/**
 * Nobody switches on until everyone on the job has answered: each on their own phone, or in person, which the lead or
 * a verifier writes down. An answer lapses when work inside goes on.
 */
defineProps<{ off: boolean }>()
const emit = defineEmits<{ write: [Partial<Entry>[]] }>()
const opened = useJob()
const { me } = useMe()
const roll = computed(() => opened.view.roll ?? [])
const mine = (name: string) => name.toLowerCase() === me.value?.name.toLowerCase()
const answer = (name: string) =>
  emit('write', [{ kind: 'step', subject: 'answer', value: mine(name) ? undefined : name }])
const all = computed(() => roll.value.length > 0 && roll.value.every((a) => a.how))
const names = computed(() => roll.value.map((a) => a.name).join(', '))
</script>

<template>
  <div class="roll">
    <p v-if="!roll.length" class="quiet">No crew is set in the plan yet.</p>
    <template v-for="a in roll" :key="a.name">
      <p v-if="a.how" class="answered" :data-answered="a.name">
        ✓ <b>{{ a.name }}</b> answered: clear
        <span class="quiet">{{ a.how === 'phone' ? 'on their own phone' : 'in person' }}, {{ clockText(a.at!) }}</span>
      </p>
      <PushButton kind="plain" v-else class="name" :data-answer="a.name" :disabled="off" @click="answer(a.name)">
        ○ {{ mine(a.name) ? `I, ${a.name}, am clear of the board` : `${a.name} answers in person: clear` }}
      </PushButton>
    </template>
    <PushButton
      kind="main"
      :disabled="off || !all"
      @click="emit('write', [{ kind: 'step', subject: 'energise', value: names }])"
    >
      Everyone answered: switched on
    </PushButton>
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
.answered {
  border-left: 5px solid var(--sound);
  background: var(--sound-soft);
  padding: 8px 12px;
}
</style>
