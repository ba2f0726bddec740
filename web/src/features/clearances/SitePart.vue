<script setup lang="ts">
import { useSection } from '@/composables/useSection'
import { useCountry } from '@/composables/useCountry'
import ChoiceField from '@/kit/ChoiceField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import SaveState from '@/kit/SaveState.vue'
import TextField from '@/kit/TextField.vue'
import { languages } from '../options'

/** Who and where, and how the energy bill writes it: forms bounce where the two differ. */
defineProps<{ off: boolean }>()
const { asks, label } = useCountry()
const { draft, state, reason, retry, clashes, settle, theirs } = useSection('site', (s) => ({
  ...s,
  bill: s.bill ?? {},
}))
</script>

<template>
  <fieldset :disabled="off">
    <FieldGroup id="site.bill" title="Customer, and the energy bill">
      <template #actions>
        <SaveState
          :state="state"
          :reason="reason"
          :clashes="clashes"
          :off="off"
          @retry="retry"
          @settle="settle"
          @theirs="theirs"
        />
      </template>
      <TextField v-model="draft.customer" name="site.customer" label="Customer" />
      <TextField v-model="draft.bill.name" name="site.bill.name" label="Name on the bill" />
      <TextField v-model="draft.street" name="site.street" label="Street" />
      <TextField v-model="draft.bill.street" name="site.bill.street" label="Street on the bill" />
      <TextField v-model="draft.postcode" name="site.postcode" label="Postcode or ZIP" />
      <TextField v-model="draft.bill.postcode" name="site.bill.postcode" label="Postcode on the bill" />
      <TextField v-model="draft.bill.account" name="site.bill.account" label="Account or supply number" mono />
      <TextField v-model="draft.town" name="site.town" label="Town" />
      <TextField v-model="draft.phone" name="site.phone" label="Telephone" />
      <TextField v-model="draft.email" name="site.email" label="Mail" />
      <ChoiceField
        v-if="asks('site.language')"
        v-model="draft.language"
        name="site.language"
        :label="label('site.language')"
        :options="languages"
      />
      <TextField v-model="draft.follows" name="site.follows" label="Our job before this one here" mono />
      <TextField v-model="draft.note" name="site.note" label="What the crew should know before they arrive" wide />
      <TextField
        v-model="draft.zone"
        name="site.zone"
        label="Time zone, where it is not the firm's"
        hint="such as America/Denver"
      />
    </FieldGroup>
  </fieldset>
</template>
