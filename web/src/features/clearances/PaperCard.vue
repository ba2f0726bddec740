<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import words from '@/api/words.json'
import { useJob } from '@/composables/useJob'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import DateField from '@/kit/DateField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { dayText } from '@/kit/dates'
import { befores } from '../options'
import FormPart from './FormPart.vue'
import PaperFiles from './PaperFiles.vue'
import PutAside from './PutAside.vue'
import { stateWords } from './usePapers'

/** One permission, notice or inspection: what it holds up, its dates, its form, and what came back. */
const props = defineProps<{ index: number; view?: Schemas['PapersView']; sealed?: boolean }>()
const paper = defineModel<Schemas['Paper']>({ required: true })
const emit = defineEmits<{ remove: []; send: [anyway: string] }>()
const opened = useJob()
const at = (field: string) => `clearances.papers.${props.index}.${field}`
const bar = computed(() => props.view?.timeline.find((b) => b.paper === paper.value.id))
const route = computed(() => props.view?.proposals.find((p) => p.paper.id === paper.value.id))
const check = computed(() => props.view?.checks[paper.value.id])
const forms = computed(() => (props.view?.forms[paper.value.id] ?? []).map((f) => ({ value: f.id, text: f.title })))
const aside = computed(() =>
  [...opened.standing].reverse().find((e) => e.kind === 'override' && e.subject === `paper:${paper.value.id}`),
)
/** An emptied date is no date. */
function date(field: 'sent' | 'acknowledged' | 'granted' | 'due') {
  return computed({
    get: () => paper.value[field],
    set: (v?: string) => (paper.value[field] = v || undefined),
  })
}
const sent = date('sent')
const acknowledged = date('acknowledged')
const granted = date('granted')
const due = date('due')
/** A paper that is settled, or comes after the work, is folded up until it is wanted. */
const folded = ref(
  paper.value.needed === 'no' ||
    !!paper.value.granted ||
    (paper.value.before === 'after' && paper.value.needed === 'yes'),
)
/** A sealed job's papers are as they were, but for the forms of what comes after. */
const frozen = computed(() => props.sealed && paper.value.before !== 'after')
const told = computed(
  () =>
    [
      paper.value.needed === 'no' && `not needed, ${paper.value.reason}`,
      sent.value && `sent ${dayText(sent.value)}`,
      granted.value && `answered ${dayText(granted.value)}`,
      paper.value.reference,
    ]
      .filter(Boolean)
      .join(', ') || 'nothing entered',
)
const outcomeText = (o: string) => words.outcome.find((w) => w.value === o)?.text ?? o
</script>

<template>
  <FieldGroup :title="paper.title || 'New paper'" :data-paper-card="paper.id">
    <template #actions>
      <span class="state" :class="bar?.state" :data-state-of="paper.id">{{ bar ? stateWords[bar.state] : '' }}</span>
      <PushButton
        kind="plain"
        :aria-expanded="!folded"
        :aria-label="`${folded ? 'Show' : 'Fold'} ${paper.title}`"
        :data-fold="paper.id"
        @click="folded = !folded"
      >
        {{ folded ? 'Show' : 'Fold' }}
      </PushButton>
    </template>
    <p v-if="route?.route" class="wide route">
      <b>{{ route.route === 'notify-after' ? 'Notify after the work' : 'Apply before the work' }}:</b>
      {{ route.paper.reason }}
    </p>
    <p v-if="folded && paper.reason && !route?.route" class="wide route">{{ paper.reason }}</p>
    <p v-if="aside" class="wide route">
      <b>Put aside by {{ aside.by }}:</b> {{ aside.reason }}
    </p>
    <template v-if="!folded && !sealed">
      <AnswerField v-model="paper.needed" :name="at('needed')" label="Needed for this job?" />
      <TextField
        v-if="paper.needed === 'no'"
        v-model="paper.reason"
        :name="at('reason')"
        label="Why it is not needed"
        wide
      />
      <template v-else>
        <ChoiceField v-model="paper.before" :name="at('before')" label="Must come before" :options="befores" />
        <ChoiceField
          v-if="forms.length"
          v-model="paper.form"
          :name="at('form')"
          label="Form"
          :options="forms"
          empty="no form of ours"
        />
        <DateField v-model="sent" :name="at('sent')" label="Sent" />
        <DateField v-model="acknowledged" :name="at('acknowledged')" label="Acknowledged" />
        <DateField v-model="granted" :name="at('granted')" label="Answered or passed" />
        <DateField v-model="due" :name="at('due')" label="Due by" />
        <TextField v-model="paper.reference" :name="at('reference')" label="Reference" mono />
        <NumberField
          v-model="paper.waitLow"
          :name="at('waitLow')"
          label="Usual wait, from"
          unit="days"
          :decimals="0"
          zero
        />
        <NumberField v-model="paper.waitHigh" :name="at('waitHigh')" label="to" unit="days" :decimals="0" zero />
      </template>
      <TextField v-model="paper.title" :name="at('title')" label="What it is" />
      <TextField v-model="paper.who" :name="at('who')" label="Who answers" />
    </template>
    <template v-if="!folded" #below>
      <ol v-if="paper.replies?.length" class="replies" :data-replies="paper.id">
        <li v-for="(r, i) in paper.replies" :key="i" :class="r.outcome">
          <b>{{ dayText(r.on) }}, {{ outcomeText(r.outcome) }}</b>
          <span v-if="r.reference" class="mono">{{ r.reference }}</span>
          <ul v-if="r.reasons?.length">
            <li v-for="w in r.reasons" :key="w">{{ w }}</li>
          </ul>
        </li>
      </ol>
      <p v-if="sealed" class="quiet">Sealed as it was: {{ told }}</p>
      <PaperFiles v-if="!check && !frozen" v-model="paper" />
      <FormPart
        v-if="check && paper.needed === 'yes' && !frozen"
        v-model="paper"
        :check="check"
        :index="index"
        :mail="view?.mail"
        :bar="bar"
        @send="(anyway: string) => emit('send', anyway)"
      />
      <div v-if="!sealed" class="row end">
        <PutAside v-if="!aside && bar && !['answered', 'not-needed'].includes(bar.state)" :paper="paper.id" />
        <span class="grow" />
        <PushButton kind="plain" :aria-label="`Remove this paper: ${paper.title}`" @click="emit('remove')">
          Remove this paper
        </PushButton>
      </div>
    </template>
  </FieldGroup>
</template>

<style scoped>
.state {
  font-size: 13px;
  color: var(--slate);
}
.state.sent-back,
.state.overdue {
  color: var(--stop);
  font-weight: 600;
}
.state.answered {
  color: var(--sound);
  font-weight: 600;
}
.end {
  margin-top: 10px;
  align-items: end;
}
.end > :first-child:not(.grow) {
  flex: 1;
}
.wide {
  grid-column: 1 / -1;
}
.route {
  font-size: 13px;
  color: var(--ink2);
}
.replies {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
  font-size: 13px;
}
.replies > li {
  border-left: 3px solid var(--slate);
  padding: 2px 0 2px 10px;
  margin-top: 6px;
}
.replies .mono {
  margin-left: 8px;
}
.replies > .bounced {
  border-left-color: var(--stop);
}
.replies > .accepted {
  border-left-color: var(--sound);
}
.replies ul {
  margin: 2px 0 0;
  padding-left: 18px;
}
</style>
