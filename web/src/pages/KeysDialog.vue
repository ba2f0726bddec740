<script setup lang="ts">
import { useKeys } from '@/composables/useKeys'
import PushButton from '@/kit/PushButton.vue'

const open = defineModel<boolean>()
useKeys({ escape: () => (open.value = false) })
const keys = [
  ['1 to 7', 'go to a stage'],
  ['/', 'search jobs'],
  ['Ctrl K', 'do anything by name'],
  ['?', 'this list'],
  ['Enter', 'commit a reading and move on'],
  ['Esc', 'put the old reading back'],
]
</script>

<template>
  <v-dialog v-model="open" max-width="420" aria-label="Keys">
    <div class="card">
      <h1>Keys</h1>
      <table>
        <tbody>
          <tr v-for="[k, what] in keys" :key="k">
            <td>
              <kbd>{{ k }}</kbd>
            </td>
            <td>{{ what }}</td>
          </tr>
        </tbody>
      </table>
      <PushButton kind="plain" @click="open = false">Close</PushButton>
    </div>
  </v-dialog>
</template>
