<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { ref } from 'vue'
import { ask, client } from '@/api/client'
import { madePasskey, passkeysHere } from '@/composables/passkeys'
import { useAttempt } from '@/composables/useAttempt'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { momentText } from '@/kit/dates'

/** One's own passkeys: a device that signs in by a finger, a face or its number. */
const list = useQuery({ queryKey: ['passkeys'], queryFn: () => ask(client.GET('/api/session/passkeys')) })
const form = ref({ old: '', name: '' })
const { attempt, fields: errors, elsewhere: wrong, done: said, busy } = useAttempt()

async function change(what: () => Promise<unknown>, words: string) {
  if (!(await attempt(what, words))) return
  form.value = { old: '', name: '' }
  await list.refetch()
}
const add = () =>
  change(async () => {
    const answer = await madePasskey(form.value.old)
    await ask(client.POST('/api/session/passkeys', { body: { name: form.value.name, answer } }))
  }, 'This device signs you in from now on.')
const end = (id: string, name: string) =>
  change(
    () =>
      ask(
        client.POST('/api/session/passkeys/{passkey}/end', {
          params: { path: { passkey: id } },
          body: { old: form.value.old },
        }),
      ),
    `${name} no longer signs you in.`,
  )
</script>

<template>
  <form v-if="passkeysHere || list.data.value?.length" @submit.prevent="add">
    <FieldGroup title="Passkeys" data-passkeys>
      <TextField
        v-model="form.name"
        name="passkey-name"
        label="What you call this device"
        hint="as van phone"
        :error="errors.name"
      />
      <TextField
        v-model="form.old"
        name="old-passkey"
        label="Present password"
        type="password"
        autocomplete="current-password"
        :error="errors.old"
      />
      <template #below>
        <table v-if="list.data.value?.length">
          <tbody>
            <tr v-for="k in list.data.value" :key="k.id">
              <td>
                <b>{{ k.name }}</b>
              </td>
              <td class="quiet">{{ k.used ? `used ${momentText(k.used)}` : 'not used yet' }}</td>
              <td class="end">
                <PushButton kind="plain" :aria-label="`End ${k.name}`" @click="end(k.id, k.name)"> End </PushButton>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="wrong || errors.answer" class="wrong" role="alert">{{ wrong || errors.answer }}</p>
        <p v-else-if="said" class="said" role="status">{{ said }}</p>
        <p class="quiet">
          Signs you in by a finger, a face or the number of the device, in place of password and code. A lost device:
          end its line here, or ask the office.
        </p>
        <PushButton v-if="passkeysHere" type="submit" :disabled="busy">Add this device</PushButton>
      </template>
    </FieldGroup>
  </form>
</template>

<style scoped>
.wrong {
  color: var(--stop);
  font-weight: 600;
}
.said {
  margin-top: 8px;
  font-weight: 600;
}
.end {
  text-align: right;
}
.btn {
  margin-top: 10px;
}
</style>
