<script setup lang="ts">
import { ref } from 'vue'
import { ask, client, fileBody, type Schemas } from '@/api/client'
import { useAttempt } from '@/composables/useAttempt'
import FileButton from '@/kit/FileButton.vue'
import TopBar from '@/kit/TopBar.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import { momentText } from '@/kit/dates'

const result = ref<Schemas['VerifyResult']>()
const name = ref('')
const { attempt, wrong: error } = useAttempt()

async function check(file: File) {
  name.value = file.name
  result.value = undefined
  await attempt(async () => {
    result.value = await ask(client.POST('/api/verify', fileBody(file, 'application/octet-stream')))
  })
}
</script>

<template>
  <TopBar />
  <main class="page">
    <h1>Check a sealed file</h1>
    <p class="quiet">A sealed PDF or JSON, from any day. Nothing of it is kept, and no account is asked for.</p>
    <FileButton main accept=".pdf,.json" @chosen="check">Choose the file</FileButton>
    <p v-if="error" class="bad" role="alert">{{ error }}</p>
    <section v-if="result" class="card outcome" role="status">
      <p class="row">
        <VerdictMark
          :verdict="
            !result.intact || result.standing === 'withdrawn'
              ? 'stop'
              : result.standing === 'replaced'
                ? 'watch'
                : 'sound'
          "
          :size="26"
        />
        <b>{{ result.intact ? 'Intact' : 'Not intact' }}</b> <span class="quiet">{{ name }}</span>
      </p>
      <p>{{ result.message }}</p>
      <table v-if="result.intact">
        <tbody>
          <tr>
            <td class="quiet">Job</td>
            <td class="mono">{{ result.number }}, issue {{ result.issue }}</td>
          </tr>
          <tr>
            <td class="quiet">Sealed</td>
            <td>
              <span class="mono">{{ momentText(result.sealedAt!) }}</span> by {{ result.sealedBy
              }}{{ result.contractor ? `, ${result.contractor}` : '' }}
            </td>
          </tr>
          <tr data-standing>
            <td class="quiet">Standing</td>
            <td>
              <b v-if="result.standing === 'replaced'"
                >replaced by issue {{ result.replacedBy }}, code <span class="mono">{{ result.replacedCode }}</span></b
              >
              <b v-else-if="result.standing === 'withdrawn'"
                >withdrawn by the firm on {{ momentText(result.withdrawnAt!) }}: {{ result.reason }}</b
              >
              <template v-else-if="result.standing === 'last'">the last issue of its job</template>
              <template v-else>not in this firm’s books: whether it was replaced is not known</template>
            </td>
          </tr>
          <tr>
            <td class="quiet">Code</td>
            <td class="mono">{{ result.code }}</td>
          </tr>
          <tr>
            <td class="quiet">Key</td>
            <td>
              <span class="mono">{{ result.fingerprint }}</span>,
              {{ result.ourKey ? 'this firm’s' : 'not this firm’s: compare it with the sender' }}
            </td>
          </tr>
          <tr v-if="result.stampedAt">
            <td class="quiet">Time stamp</td>
            <td>
              <span class="mono">{{ momentText(result.stampedAt) }}</span> by {{ result.stampedBy }}: whether that
              authority is to be trusted, you decide
            </td>
          </tr>
        </tbody>
      </table>
    </section>
  </main>
</template>

<style scoped>
.page {
  max-width: 640px;
  margin: 0 auto;
  padding: 18px 22px;
  display: grid;
  gap: 14px;
  justify-items: start;
}
.outcome {
  width: 100%;
  display: grid;
  gap: 10px;
}
.bad {
  color: var(--stop);
  font-weight: 600;
}
</style>
