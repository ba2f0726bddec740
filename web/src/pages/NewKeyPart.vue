<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useMe } from '@/composables/useMe'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { datedText } from '@/kit/dates'

/** A new sealing key: one of the office and a verifier make it together. */
const { proposed } = defineProps<{ proposed?: Schemas['KeyProposal'] }>()
const { me } = useMe()
const queries = useQueryClient()
const open = ref(false)
const form = ref({ why: '', old: '' })
const { attempt, fields: errors, elsewhere: wrong, done: said, busy } = useAttempt()
const own = computed(() => proposed?.account === me.value?.id)

async function change(what: () => Promise<unknown>, words: string) {
  if (!(await attempt(what, words))) return
  form.value = { why: '', old: '' }
  open.value = false
  for (const key of ['doctor', 'firm']) await queries.invalidateQueries({ queryKey: [key] })
}
const propose = () =>
  change(
    () => ask(client.POST('/api/firm/key', { body: form.value })),
    'Asked for. One of the other part agrees here within a day: a verifier for the office, the office for a verifier.',
  )
const agree = () =>
  change(
    () => ask(client.POST('/api/firm/key/agree', { body: { old: form.value.old } })),
    'The new key seals from now on. Give its digits to customers and inspectors; what the old one sealed stays good.',
  )
const drop = () => change(() => ask(client.DELETE('/api/firm/key')), 'Taken back.')
</script>

<template>
  <form class="new" data-new-key @submit.prevent="proposed ? agree() : propose()">
    <p v-if="said" class="said" role="status">{{ said }}</p>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <template v-if="proposed">
      <p>
        <b>{{ own ? 'You ask' : `${proposed.by} asks` }} for a new key</b>, {{ datedText(proposed.at) }}:
        {{ proposed.why }}
      </p>
      <p class="quiet">The office and a verifier make it together.</p>
    </template>
    <div v-if="proposed || open" class="fields">
      <TextField
        v-if="!proposed"
        v-model="form.why"
        name="key-why"
        label="Why a new key"
        hint="as: the laptop with the key was stolen"
        wide
        :error="errors.why"
      />
      <TextField
        v-model="form.old"
        name="old-key"
        label="Your password"
        type="password"
        autocomplete="current-password"
        :error="errors.old"
      />
    </div>
    <div class="row">
      <PushButton v-if="proposed" type="submit" :disabled="busy">Make the new key</PushButton>
      <PushButton v-else-if="open" type="submit" :disabled="busy">Ask for it</PushButton>
      <PushButton kind="plain" v-else @click="open = true">The key is lost, or to be changed</PushButton>
      <PushButton kind="plain" v-if="proposed" :disabled="busy" @click="drop">No new key</PushButton>
      <PushButton kind="plain" v-else-if="open" @click="open = false">Leave it</PushButton>
    </div>
  </form>
</template>

<style scoped>
.new {
  margin-top: 12px;
  border-top: 1px solid var(--line);
  padding-top: 10px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 12px 16px;
  margin: 10px 0;
}
.row {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
.said {
  font-weight: 600;
}
.wrong {
  color: var(--stop);
  font-weight: 600;
}
p {
  margin: 0 0 8px;
}
</style>
