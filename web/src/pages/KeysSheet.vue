<script setup lang="ts">
const open = defineModel<boolean>()
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
  <v-dialog v-model="open" max-width="420">
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
    </div>
  </v-dialog>
</template>
