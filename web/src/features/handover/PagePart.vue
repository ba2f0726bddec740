<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { ask, client, type Refusal } from '@/api/client'
import { base } from '@/base'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import { momentText } from '@/kit/dates'

/** The customer's page: opened at an address of its own, closed again, with the address to be given and as a code. */
const opened = useJob()
const { may } = useMe()
const queries = useQueryClient()
const path = { params: { path: { job: opened.id } } }
const key = ['customer-page', opened.id]
const page = useQuery({
  queryKey: key,
  queryFn: async () => {
    try {
      return await ask(client.GET('/api/jobs/{job}/page', path))
    } catch (e) {
      if ((e as Refusal).status === 404) return null
      throw e
    }
  },
})
const at = `${location.origin}${base}`
// A page from before papers printed its address has none of its own.
const address = computed(
  () => page.data.value?.address || (page.data.value && `${at}/open/${page.data.value.token}`) || '',
)
const { attempt, wrong, busy, done } = useAttempt()
const email = computed(() => opened.view.job.site?.email)
const mail = () =>
  attempt(async () => {
    await ask(client.POST('/api/jobs/{job}/mail-pack', path))
    await queries.invalidateQueries({ queryKey: ['recipients'] })
  }, `Sent to ${email.value}.`)
const open = () =>
  attempt(async () =>
    queries.setQueryData(key, await ask(client.POST('/api/jobs/{job}/page', { ...path, body: { at } }))),
  )
const close = () =>
  attempt(async () => {
    await ask(client.DELETE('/api/jobs/{job}/page', path))
    queries.setQueryData(key, null)
  })
</script>

<template>
  <FieldGroup title="For the customer">
    <template #below>
      <template v-if="page.data.value">
        <div class="row page" data-customer-page>
          <img
            :src="`api/jobs/${opened.id}/page/qr.png?of=${page.data.value.token}`"
            width="120"
            height="120"
            alt="The address as a code, for the customer’s phone"
          />
          <div>
            <p>
              <a :href="address" target="_blank" rel="noopener" data-address>{{ address }}</a>
            </p>
            <p class="quiet">
              opened {{ momentText(page.data.value.at) }} by {{ page.data.value.by }}. Whoever has the address reads the
              pack, the certificate and how the notices stand; no account is asked for. A new address ends this one,
              where it was printed too.
            </p>
            <p v-if="may('save the clearances')" class="row">
              <PushButton kind="plain" :disabled="busy" data-close-page @click="close">Close it</PushButton>
              <PushButton kind="plain" :disabled="busy" @click="open">New address</PushButton>
            </p>
          </div>
        </div>
      </template>
      <template v-else-if="page.data.value === null">
        <p class="quiet">
          A page of the last issue that the customer opens without an account, at an address of its own. What is sealed
          while it is open prints the address as a code; so do the labels.
        </p>
        <PushButton v-if="may('save the clearances')" :disabled="busy" data-open-page @click="open"
          >Open the page</PushButton
        >
      </template>
      <p v-if="opened.view.records.length && may('save the clearances')" class="row">
        <PushButton v-if="email" kind="plain" :disabled="busy" data-mail-pack @click="mail">
          Mail the papers to {{ email }}
        </PushButton>
        <span v-else class="quiet">No mail address of the customer: it is entered under Clearances.</span>
        <span v-if="done" role="status">{{ done }}</span>
      </p>
      <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
    </template>
  </FieldGroup>
</template>

<style scoped>
.page {
  flex-wrap: nowrap;
  align-items: flex-start;
}
.page > div {
  min-width: 0;
}
.page a {
  overflow-wrap: anywhere;
}
</style>
