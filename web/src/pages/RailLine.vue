<script setup lang="ts">
import { ref } from 'vue'
import type { Finding } from '@/api/client'
import { useMe } from '@/composables/useMe'
import LimitBar from '@/kit/LimitBar.vue'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import WordsField from '@/kit/WordsField.vue'

/** One finding: title and numbers; opened, its working, remedy, and the way to its field. */
defineProps<{ finding: Finding; open: boolean }>()
const emit = defineEmits<{ toggle: []; jump: []; override: [string]; take: [string] }>()
const { may } = useMe()
const reason = ref('')
const asking = ref(false)
/** Opens the working and goes to the field; on a phone, where the rail covers the page, only the first. */
function press() {
  emit('toggle')
  if (window.innerWidth > 1023) emit('jump')
}
</script>

<template>
  <div class="line" :data-rule="finding.rule" :data-verdict="finding.verdict" :data-point="finding.point">
    <VerdictMark :verdict="finding.verdict" />
    <div class="body">
      <PushButton kind="own" class="title" :aria-expanded="open" @click="press">
        {{ finding.title }}<template v-if="finding.point"> · {{ finding.point }}</template>
      </PushButton>
      <p v-if="finding.missing" class="mono small">needs: {{ finding.missing }}</p>
      <p v-else-if="finding.value && finding.limit" class="mono small">{{ finding.value }}, {{ finding.limit }}</p>
      <p v-if="finding.overriddenBy" class="small accepted">
        accepted by {{ finding.overriddenBy }}: {{ finding.overrideReason }}
      </p>
      <p class="quiet small">
        {{ finding.clause }}<template v-if="finding.remedy"> · {{ finding.remedy }}</template>
      </p>
      <p v-if="finding.offers && may('save the design')" class="row offers">
        <PushButton v-for="o in finding.offers" :key="o" data-take @click="emit('take', o)">{{ o }}</PushButton>
      </p>
      <div v-if="open" class="working">
        <LimitBar v-if="finding.bar" :gauge="finding.bar" :verdict="finding.verdict" />
        <p class="mono">{{ finding.working || `needs: ${finding.missing}` }}</p>
        <PushButton kind="word" @click="emit('jump')">Go to the field</PushButton>
        <p v-if="finding.margin" class="quiet">{{ finding.margin }} of the limit left</p>
        <template v-if="finding.verdict === 'stop' && !finding.overriddenBy">
          <p v-if="finding.fixed" class="quiet">This rule can never be overridden.</p>
          <template v-else-if="may('accept a stop')">
            <PushButton kind="word" v-if="!asking" @click="asking = true"> Accept this stop, with a reason </PushButton>
            <form v-else @submit.prevent="(emit('override', reason), (asking = false))">
              <p class="small">Why is it acceptable? Your name and this reason are printed on the record.</p>
              <WordsField v-model="reason" label="Why is it acceptable?" />
              <PushButton type="submit" :disabled="reason.trim().length < 10">Accept it</PushButton>
            </form>
          </template>
        </template>
      </div>
    </div>
  </div>
</template>

<style scoped>
.offers {
  margin-top: 6px;
}
.line {
  display: grid;
  grid-template-columns: 20px 1fr;
  gap: 8px;
  padding: 8px 2px;
  border-top: 1px solid var(--line);
}
.title {
  font: inherit;
  font-weight: 600;
  line-height: 1.25;
  color: var(--ink);
  background: none;
  border: 0;
  padding: 0;
  text-align: left;
  cursor: pointer;
  min-height: calc(var(--tap) - 14px);
}
.title:hover {
  text-decoration: underline;
  text-decoration-color: var(--copper);
}
.small {
  font-size: 12.5px;
  margin-top: 2px;
}
.body {
  min-width: 0;
  overflow-wrap: anywhere;
}
.accepted {
  color: var(--watch);
}
.working {
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 4px;
  padding: 10px;
  margin-top: 8px;
  font-size: 12.5px;
  display: grid;
  gap: 6px;
}
.link {
  font: inherit;
  color: var(--copper);
  background: none;
  border: 0;
  padding: 0;
  text-align: left;
  cursor: pointer;
}
</style>
