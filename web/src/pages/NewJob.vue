<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { useLocalStorage } from '@vueuse/core'
import { computed, provide, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, client } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import { useBooks } from '@/composables/useBooks'
import { fieldErrors } from '@/composables/useSection'
import { kinds } from '@/features/options'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import TopBar from '@/kit/TopBar.vue'

const router = useRouter()
const queries = useQueryClient()
/** The job at the same site that this one begins from, where it does. */
const from = useRoute().query.from as string | undefined
const before = useQuery({
  queryKey: ['job', from],
  queryFn: () => ask(client.GET('/api/jobs/{job}', { params: { path: { job: from! } } })),
  enabled: !!from,
})
const books = useBooks()
const options = computed(() => books.data.value?.map((b) => ({ value: b.id, text: `${b.name}, ${b.country}` })) ?? [])
// Most firms work by one edition: the one that was chosen last on this device, while it is offered.
const last = useLocalStorage('rulebook', '')
const chosen = ref<string>()
const rulebook = computed({
  get: () =>
    chosen.value ?? before.data.value?.job.rulebook ?? options.value.find((o) => o.value === last.value)?.value,
  set: (id) => (chosen.value = id),
})
const number = ref('')
const points = ref<number | undefined>(1)
const kind = ref<(typeof kinds)[number]['value'] | undefined>(kinds[0]!.value)
const site = ref({ customer: '', phone: '', email: '', street: '', town: '', postcode: '', note: '' })
const { attempt, fields, wrong } = useAttempt()
const unchosen = ref<Record<string, string>>({})
const errors = computed(() => ({ ...fields.value, ...unchosen.value }))
provide(fieldErrors, errors)

async function make() {
  const body = {
    number: number.value || undefined,
    rulebook: rulebook.value!,
    points: points.value ?? 0,
    kind: kind.value,
    from,
    site: site.value,
  }
  const view = await ask(client.POST('/api/jobs', { body }))
  last.value = rulebook.value!
  queries.invalidateQueries({ queryKey: ['jobs'] })
  router.replace(`/jobs/${view.row.id}/survey`)
}
function submit() {
  unchosen.value = rulebook.value ? {} : { rulebook: 'choose the edition that the job is judged by' }
  if (rulebook.value) void attempt(make)
}
</script>

<template>
  <TopBar />
  <main class="page">
    <h1>New job</h1>
    <form @submit.prevent="submit">
      <p v-if="before.data.value" class="before" data-before>
        At {{ before.data.value.row.address }}, {{ before.data.value.row.town }}, as job
        {{ before.data.value.row.number }} left it. Supply, bonding, second source, gas, board and consent are asked
        again.
      </p>
      <FieldGroup title="Where and by which rules">
        <ChoiceField v-model="rulebook" name="rulebook" label="Rulebook" :options="options" empty="choose one" />
        <ChoiceField v-model="kind" name="kind" label="What is to be done" :options="kinds" />
        <NumberField v-if="!from" v-model="points" name="points" label="Charging points" :decimals="0" />
        <TextField v-model="number" name="number" label="Job number" hint="left empty: the next free one" mono />
      </FieldGroup>
      <FieldGroup v-if="!from" title="Customer and site">
        <TextField v-model="site.customer" name="site.customer" label="Customer" />
        <TextField v-model="site.phone" name="site.phone" label="Telephone" type="tel" />
        <TextField v-model="site.email" name="site.email" label="Mail" type="email" />
        <TextField v-model="site.street" name="site.street" label="Street and number" />
        <TextField v-model="site.town" name="site.town" label="Town" />
        <TextField v-model="site.postcode" name="site.postcode" label="Postcode or ZIP" />
        <TextField v-model="site.note" name="site.note" label="What the crew should know" wide />
      </FieldGroup>
      <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
      <div class="row actions">
        <PushButton kind="main" type="submit">Make the job</PushButton>
        <router-link class="btn plain" to="/jobs">Leave it</router-link>
      </div>
    </form>
  </main>
</template>

<style scoped>
.before {
  margin-bottom: 4px;
  color: var(--slate);
}
.page {
  max-width: 900px;
  margin: 0 auto;
  padding: 18px 22px 60px;
}
.actions {
  margin-top: 16px;
}
.error {
  color: var(--stop);
  font-weight: 600;
  margin-top: 12px;
}
</style>
