<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Entry, Schemas, Verdict } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import LineField from '@/kit/LineField.vue'
import ListField from '@/kit/ListField.vue'
import PressBars from '@/kit/PressBars.vue'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import { momentText } from '@/kit/dates'
import TakeBack from '../TakeBack.vue'
import { inspectionText } from '../options'

/** One thing that is looked at, or stated. What needs words is kept when they are there. */
const props = defineProps<{
  item: Schemas['Asked']
  answer?: Entry
  offer?: Schemas['Offer']
  off: boolean
  commit: (item: Schemas['Asked'], value: string, words: string) => Promise<void>
}>()
const { attempt, wrong, busy } = useAttempt()
/** An answer that waits for its words. */
const waits = ref('')
const words = ref('')
const options = computed(() => props.item.answers.map((a) => ({ value: a.value, text: inspectionText(a.value) })))
const chosen = computed(() => waits.value || props.answer?.value || '')
const asksWords = (value: string) => props.item.answers.find((a) => a.value === value)?.words
const verdict = computed<Verdict>(() => {
  if (!props.answer) return 'open'
  return ({ 'not-right': 'stop', limited: 'watch' } as Record<string, Verdict>)[props.answer.value!] ?? 'sound'
})

async function press(value: string) {
  if (asksWords(value)) {
    waits.value = value
    words.value =
      props.answer?.value === value
        ? (props.answer.reason ?? '')
        : props.offer?.value === value
          ? (props.offer.why ?? '')
          : ''
    return
  }
  await keep(value, '')
}
async function keep(value: string, said: string) {
  if (await attempt(() => props.commit(props.item, value, said))) waits.value = ''
}
</script>

<template>
  <div class="item" :data-item="item.id" :data-open="answer ? undefined : ''">
    <span class="what">
      {{ item.title }}
      <span class="hint">{{ item.clause }}</span>
    </span>
    <ListField
      v-if="options.length > 4"
      class="choice"
      :options="options"
      :label="item.title"
      empty="not stated"
      :model-value="chosen || undefined"
      :disabled="off || busy"
      @update:model-value="(v) => v && press(v)"
    />
    <PressBars
      v-else
      class="choice"
      :label="item.title"
      :options="options"
      :chosen="chosen"
      :disabled="off || busy"
      @press="press"
    />
    <VerdictMark :verdict="verdict" />
    <form v-if="waits" class="note row" @submit.prevent="keep(waits, words)">
      <LineField
        v-model="words"
        :label="`${item.title}: in words`"
        placeholder="in words: what, why, agreed with whom"
      />
      <PushButton type="submit" :disabled="words.trim().length < 10 || busy">Keep</PushButton>
      <PushButton kind="plain" @click="waits = ''">Leave it</PushButton>
    </form>
    <p v-if="wrong" class="note error" role="alert">{{ wrong }}</p>
    <p v-if="answer && !waits" class="note">
      <span v-if="answer.reason">{{ inspectionText(answer.value!) }}: {{ answer.reason }} · </span>
      {{ answer.by }}, {{ momentText(answer.at) }}
    </p>
    <div v-if="answer && !waits" class="note takes"><TakeBack :entry="answer" :off="off || busy" /></div>
  </div>
</template>

<style scoped>
.item {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 460px) 22px;
  gap: 4px 12px;
  align-items: center;
  padding: 6px 8px;
  border-bottom: 1px solid var(--line);
  scroll-margin: 130px;
}
.item:not(:focus-within) .takes {
  display: none;
}
.hint {
  display: block;
  font-size: 12px;
  color: var(--slate);
}
.note {
  grid-column: 1 / -1;
  font-size: 12.5px;
  color: var(--slate);
}
.note .v-input {
  flex: 1 1 240px;
}
@media (max-width: 719px) {
  .item {
    grid-template-columns: minmax(0, 1fr) 22px;
  }
  .choice {
    grid-row: 2;
    grid-column: 1 / -1;
    display: grid;
    grid-template-columns: 1fr 1fr;
  }
}
</style>
