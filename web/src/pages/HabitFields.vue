<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { terms } from '@/composables/useCountry'
import CheckField from '@/kit/CheckField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import TextField from '@/kit/TextField.vue'
import UsualAnswer from './UsualAnswer.vue'

/** What the firm usually does in one country: what a job begins with, and what a survey offers to be confirmed. */
const props = defineProps<{ country: Schemas['Page']; books: string[] }>()
const habits = defineModel<Schemas['Habits']>({ required: true })
const at = (field: string) => `policy.habits.${props.country.id}.${field}`
const types = useQuery({ queryKey: ['chargers'], queryFn: () => ask(client.GET('/api/chargers')), staleTime: Infinity })
const chargers = computed(() =>
  (types.data.value ?? [])
    .filter((t) => t.country === props.country.id)
    .map((t) => ({ value: t.type!, text: t.type! })),
)
const families = computed(() => terms(props.country.families, (v) => v as NonNullable<Schemas['Habits']['family']>))
const all = useQuery({ queryKey: ['forms'], queryFn: () => ask(client.GET('/api/forms')) })
const forms = computed(() =>
  (all.data.value ?? []).filter((f) => f.rulebooks.some((r) => props.books.some((b) => b.startsWith(r)))),
)
function begin(form: string, yes: boolean | undefined) {
  const rest = (habits.value.papers ?? []).filter((id) => id !== form)
  habits.value.papers = yes ? [...rest, form] : rest
}
const tools = computed({
  get: () => (habits.value.tools ?? []).join(', '),
  set: (v) => (habits.value.tools = (v ?? '').split(/[,;]\s*/).filter((t) => t.trim())),
})
/** Sets an answer of the firm's own; the country's own is kept by keeping nothing. */
function answer(field: string, value: unknown, own: boolean) {
  const rest = { ...habits.value.answers }
  delete rest[field]
  habits.value.answers = own ? { ...rest, [field]: value } : rest
}
</script>

<template>
  <FieldGroup :title="`As we usually do it: ${country.name}`">
    <ChoiceField
      v-model="habits.charger"
      :name="at('charger')"
      label="A job begins with this charger"
      wide
      empty="none"
      :options="chargers"
    />
    <ChoiceField v-model="habits.family" :name="at('family')" label="and this cable" empty="none" :options="families" />
    <TextField v-model="tools" :name="at('tools')" label="Tools for every job" hint="with commas between them" wide />
    <template #below>
      <fieldset v-if="forms.length" class="forms">
        <legend class="quiet">Forms that every job begins with</legend>
        <CheckField
          v-for="f in forms"
          :key="f.id"
          :model-value="habits.papers?.includes(f.id) ?? false"
          :data-field="at(`papers.${f.id}`)"
          @update:model-value="begin(f.id, $event)"
        >
          {{ f.title }}
        </CheckField>
      </fieldset>
      <h3>Usual answers of a survey</h3>
      <p class="quiet">
        Whoever surveys confirms them all at once. What bears on earthing, bonding, a second source or the service is
        asked one by one, always.
      </p>
      <div class="answers">
        <UsualAnswer
          v-for="u in country.usual"
          :key="u.field"
          :usual="u"
          :name="at(`answers.${u.field}`)"
          :own="habits.answers ?? {}"
          @set="(v, own) => answer(u.field, v, own)"
        />
      </div>
    </template>
  </FieldGroup>
</template>

<style scoped>
.forms {
  border: 0;
  padding: 0;
  margin: 12px 0 0;
}
h3 {
  margin: 16px 0 4px;
}
.answers {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(300px, 100%), 1fr));
  gap: 6px 20px;
  margin: 8px 0 4px;
}
</style>
