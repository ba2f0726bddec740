<script setup lang="ts">
import { computed, ref } from 'vue'
import { useQuery } from '@tanstack/vue-query'
import { ask, client } from '@/api/client'
import { useDesk } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import { useSheet } from '@/composables/useSheet'
import AnswerField from '@/kit/AnswerField.vue'
import EmptyState from '@/kit/EmptyState.vue'
import SheetGroup from '@/kit/SheetGroup.vue'
import SheetState from '@/kit/SheetState.vue'
import TextField from '@/kit/TextField.vue'
import PartRow from './PartRow.vue'

const desk = useDesk()
const { may } = useMe()
const { draft, state, reason, locked, save, retry, mine, theirs } = useSheet('plan', (s) => ({
  ...s,
  parts: s.parts ?? [],
  crew: s.crew ?? [],
}))
const off = computed(() => locked.value || !may('save the plan'))
const users = useQuery({ queryKey: ['users'], queryFn: () => ask(client.GET('/api/users')) })
const crewNames = computed(() => {
  const people = users.data.value?.filter((u) => !u.disabled && ['installer', 'verifier'].includes(u.role)) ?? []
  return [...new Set([...draft.value.crew, ...people.map((u) => u.name)])]
})
const error = ref('')
const day = computed({ get: () => draft.value.day, set: (v?: string) => (draft.value.day = v || undefined) })
const inHand = computed(() => draft.value.parts.filter((p) => p.inHand === 'yes').length)

async function propose() {
  error.value = ''
  try {
    await save()
    const parts = await ask(client.GET('/api/jobs/{job}/parts', { params: { path: { job: desk.id } } }))
    const own = draft.value.parts.filter((p) => !parts.some((n) => n.name === p.name))
    draft.value.parts = [...parts, ...own]
  } catch (e) {
    error.value = (e as Error).message
  }
}
function toggleCrew(name: string) {
  const at = draft.value.crew.indexOf(name)
  if (at >= 0) draft.value.crew.splice(at, 1)
  else draft.value.crew.push(name)
}
</script>

<template>
  <header class="row">
    <h1>Plan</h1>
    <span class="quiet">{{ inHand }} of {{ draft.parts.length }} parts in hand</span>
    <span class="grow" />
    <SheetState :state="state" :reason="reason" :off="off" @retry="retry" @mine="mine" @theirs="theirs" />
  </header>
  <fieldset :disabled="off">
    <SheetGroup title="Day and crew">
      <TextField v-model="day" name="plan.day" label="Day of the work" type="date" />
      <AnswerField v-model="draft.notice" name="plan.notice" label="Customer told when the power is off?" />
      <template #below>
        <p class="crew-label">Crew, lead first. Everyone ticked here must answer before anyone switches on.</p>
        <div class="row">
          <button
            v-for="n in crewNames"
            :key="n"
            type="button"
            class="btn plain"
            :class="{ on: draft.crew.includes(n) }"
            :aria-pressed="draft.crew.includes(n)"
            @click="toggleCrew(n)"
          >
            {{ draft.crew.includes(n) ? `${draft.crew.indexOf(n) + 1}. ${n}` : n }}
          </button>
        </div>
      </template>
    </SheetGroup>
    <SheetGroup id="plan.parts" title="Parts">
      <template #actions>
        <button class="btn" type="button" @click="propose">Take the parts from the design</button>
      </template>
      <template #below>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <EmptyState
          v-if="!draft.parts.length"
          title="No parts yet"
          text="Take them from the design, then tick what is in hand: a supplier’s listing is not in hand."
        />
        <PartRow
          v-for="i in [...draft.parts.keys()]"
          :key="i"
          v-model="draft.parts[i]"
          :index="i"
          @remove="draft.parts.splice(i, 1)"
        />
        <button class="btn plain add" type="button" @click="draft.parts.push({ name: 'part', quantity: 1 })">
          Add a part
        </button>
      </template>
    </SheetGroup>
  </fieldset>
</template>

<style scoped>
.crew-label {
  margin: 12px 0 6px;
  font-size: 12.5px;
  color: var(--ink2);
}
.on {
  border-color: var(--copper);
  background: var(--copper-soft);
  color: var(--ink);
}
.error {
  color: var(--stop);
  font-weight: 600;
}
.add {
  margin-top: 10px;
}
</style>
