<script setup lang="ts">
import { computed } from 'vue'
import { ask, client } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import { useSection } from '@/composables/useSection'
import AnswerField from '@/kit/AnswerField.vue'
import EmptyState from '@/kit/EmptyState.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import SaveState from '@/kit/SaveState.vue'
import BookingPart from './BookingPart.vue'
import PartRow from './PartRow.vue'

const opened = useJob()
const { may } = useMe()
const { draft, state, reason, locked, save, retry, clashes, settle, theirs } = useSection('plan', (s) => ({
  // Day and crew are booked, not written.
  notice: s.notice,
  home: s.home,
  parts: s.parts ?? [],
}))
const off = computed(() => locked.value || !may('save the plan'))
const { attempt, wrong: error } = useAttempt()
/** Tools belong to the van; what counts is what the job brings. */
const parts = computed(() => draft.value.parts.filter((p) => p.tool !== 'yes'))
const inHand = computed(() => parts.value.filter((p) => p.inHand === 'yes').length)
function takeAll() {
  for (const p of parts.value) {
    p.inHand = 'yes'
    p.supply = undefined
  }
}
/** Parts first, then tools, each with its place in the list. */
const groups = computed(() => {
  const all = [...draft.value.parts.keys()]
  return [
    { title: 'Parts', list: all.filter((i) => draft.value.parts[i].tool !== 'yes') },
    { title: 'Tools, which come back', list: all.filter((i) => draft.value.parts[i].tool === 'yes') },
  ].filter((g) => g.list.length)
})

async function propose() {
  await attempt(async () => {
    await save()
    const parts = await ask(client.GET('/api/jobs/{job}/parts', { params: { path: { job: opened.id } } }))
    const own = draft.value.parts.filter((p) => !parts.some((n) => n.name === p.name))
    draft.value.parts = [...parts, ...own]
  })
}
</script>

<template>
  <header class="row">
    <h1>Plan</h1>
    <span class="quiet">{{ inHand }} of {{ parts.length }} parts in hand</span>
    <span class="grow" />
    <SaveState
      :state="state"
      :reason="reason"
      :clashes="clashes"
      :off="off"
      @retry="retry"
      @settle="settle"
      @theirs="theirs"
    />
  </header>
  <BookingPart :before="save" />
  <fieldset :disabled="off">
    <FieldGroup title="Customer">
      <AnswerField v-model="draft.notice" name="plan.notice" label="Told when the power is off?" />
      <AnswerField v-model="draft.home" name="plan.home" label="At home, for the network?" />
    </FieldGroup>
    <FieldGroup id="plan.parts" title="What the van must hold">
      <template #actions>
        <PushButton v-if="inHand < parts.length" kind="plain" data-all @click="takeAll">All in hand</PushButton>
        <PushButton @click="propose">Take the parts from the design</PushButton>
      </template>
      <template #below>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <EmptyState
          v-if="!draft.parts.length"
          title="No parts yet"
          text="Take them from the design. What the stock has is held when the day is booked; a supplier’s listing is not in hand."
        />
        <template v-for="g in groups" :key="g.title">
          <h3>{{ g.title }}</h3>
          <PartRow
            v-for="i in g.list"
            :key="i"
            v-model="draft.parts[i]"
            :index="i"
            @remove="draft.parts.splice(i, 1)"
          />
        </template>
        <PushButton kind="plain" class="add" @click="draft.parts.push({ name: 'part', quantity: 1 })">
          Add a part
        </PushButton>
      </template>
    </FieldGroup>
  </fieldset>
</template>

<style scoped>
.add {
  margin-top: 10px;
}
</style>
