<script setup lang="ts">
import { ref } from 'vue'
import { useAttempt } from '@/composables/useAttempt'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'

/** Lets the work go on without a paper: a verifier's decision, by name and with a reason, printed on the record. */
const props = defineProps<{ paper: string }>()
const opened = useJob()
const { may } = useMe()
const open = ref(false)
const reason = ref('')
const { attempt, wrong: error } = useAttempt()
async function put() {
  await attempt(async () => {
    await opened.log([{ kind: 'override', subject: `paper:${props.paper}`, reason: reason.value }])
    open.value = false
  })
}
</script>

<template>
  <div v-if="may('accept a stop') && !opened.view.row.sealed" class="aside">
    <PushButton kind="plain" v-if="!open" @click="open = true">Go on without it</PushButton>
    <div v-else class="row">
      <TextField
        v-model="reason"
        :name="`aside.${paper}`"
        label="Why the work goes on without it; your name and this are printed"
        :error="error"
      />
      <PushButton @click="put">Put aside</PushButton>
    </div>
  </div>
</template>

<style scoped>
.row {
  align-items: end;
}
.row > :first-child {
  flex: 1 1 320px;
}
</style>
