<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { ask, client, type Schemas, type Verdict } from '@/api/client'
import { useJob } from '@/composables/useJob'
import NumberField from '@/kit/NumberField.vue'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import type { Design } from './shape'

/** The decisions of the design, every answer judged by the rules that it touches. */
const props = defineProps<{ point: string; index: number }>()
const design = defineModel<Design>({ required: true })
const emit = defineEmits<{ chosen: [] }>()
const opened = useJob()
const query = useQuery({
  queryKey: computed(() => ['arrangements', opened.id, props.point, opened.view.revisions]),
  queryFn: () =>
    ask(
      client.GET('/api/jobs/{job}/points/{point}/arrangements', {
        params: { path: { job: opened.id, point: props.point } },
      }),
    ),
  placeholderData: keepPreviousData,
})
const shares = computed(() => design.value.sharing === 'shared-limit' || design.value.sharing === 'load-sharing')
/** Sets the values of an answer, by their path in the circuit or, after a slash, in the design. */
function choose(a: Schemas['Judged']) {
  for (const [path, value] of Object.entries(a.set)) {
    const keys = path.replace(/^\//, '').split('.')
    let at = (path.startsWith('/') ? design.value : design.value.circuits[props.index]) as Record<string, unknown>
    for (const key of keys.slice(0, -1)) at = (at[key] ??= {}) as Record<string, unknown>
    at[keys[keys.length - 1]] = value
  }
  window.setTimeout(() => emit('chosen'))
}
</script>

<template>
  <section class="card arrangements" aria-label="Arrangements">
    <h2>Arrangements</h2>
    <p class="quiet">each answer is tried on this design and judged by the rules that it touches</p>
    <details
      v-for="d in query.data.value"
      :key="d.id"
      :data-decision="d.id"
      :data-field="d.id === 'sharing' ? 'design.sharing' : undefined"
      :open="!d.answers.some((a) => a.chosen)"
    >
      <summary>
        <b>{{ d.title }}</b>
        <span v-if="d.answers.find((a) => a.chosen)" class="row now">
          <VerdictMark :verdict="d.answers.find((a) => a.chosen)!.verdict as Verdict" />
          {{ d.answers.find((a) => a.chosen)!.title }}
        </span>
        <span v-else class="quiet">not decided as one of these</span>
      </summary>
      <div v-for="a in d.answers" :key="a.title" class="answer" :class="{ on: a.chosen }">
        <VerdictMark :verdict="a.verdict as Verdict" />
        <span>
          {{ a.title }}
          <span v-for="s in a.says" :key="s" class="says">{{ s }}</span>
        </span>
        <b v-if="a.chosen" class="is">chosen</b>
        <PushButton kind="plain" v-else :data-answer="a.title" @click="choose(a)">Choose</PushButton>
      </div>
      <div v-if="d.id === 'sharing' && shares" class="limit">
        <NumberField
          v-model="design.sharedTo"
          name="design.sharedTo"
          label="Limit of all points together"
          unit="A"
          :decimals="0"
          hint="it must be proved at commissioning"
        />
      </div>
    </details>
  </section>
</template>

<style scoped>
.arrangements {
  margin-top: 12px;
}
details {
  border-top: 1px solid var(--line);
  margin-top: 6px;
}
summary {
  cursor: pointer;
  min-height: var(--tap);
  display: grid;
  grid-template-columns: minmax(160px, 230px) 1fr;
  gap: 12px;
  align-items: center;
  list-style: none;
}
summary b::before {
  content: '▸ ';
  color: var(--slate);
}
details[open] summary b::before {
  content: '▾ ';
}
.now {
  flex-wrap: nowrap;
}
.answer {
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
  padding: 5px 8px;
}
.on {
  background: var(--copper-soft);
}
.says {
  display: block;
  font-size: 12.5px;
  color: var(--slate);
}
.is {
  font-size: 13px;
  color: var(--ink2);
}
.limit {
  max-width: 260px;
  margin: 6px 0 10px 38px;
}
@media (max-width: 719px) {
  summary {
    grid-template-columns: 1fr;
    gap: 2px;
    padding: 6px 0;
  }
}
</style>
