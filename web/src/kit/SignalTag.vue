<script setup lang="ts">
import { computed } from 'vue'
import { partly } from '@/api/client'
import { clockWrong } from '@/kept/clock'
import { signal } from '@/kept/fetch'
import { low, waiting } from '@/kept/outbox'
import { ended } from '@/kept/person'
import { stopped } from '@/kept/sender'
import { newVersion } from '@/kept/version'

/** Says, only when there is something to say, that there is no signal, what waits, that room runs out, and that the clock is wrong. */
const clashing = computed(() => waiting.value.filter((i) => i.refused?.clashes.length).length)
const mend = computed(() => waiting.value.filter((i) => i.refused?.status === partly).length)
const refused = computed(() => waiting.value.filter((i) => i.refused && !i.refused.clashes.length).length - mend.value)
const open = computed(() => waiting.value.filter((i) => !i.refused).length)
const words = computed(() =>
  [
    signal.value ? '' : 'no signal',
    signal.value && (ended.value || (stopped.value === 'sign in' && waiting.value.length)) ? 'sign in to send' : '',
    open.value ? `${open.value} kept` : '',
    clashing.value ? `${clashing.value} to choose` : '',
    mend.value ? `${mend.value} to mend` : '',
    refused.value ? `${refused.value} refused` : '',
    low.value ? 'little room left' : '',
    clockWrong.value,
    newVersion.value ? 'new version' : '',
  ].filter(Boolean),
)
// What is only on its way is said when it takes a while.
const brief = computed(() => words.value.length === 1 && open.value > 0 && !stopped.value)
</script>

<template>
  <router-link v-if="words.length" to="/kept" class="signal" :class="{ brief }" role="status" data-signal>{{
    words.join(' · ')
  }}</router-link>
</template>

<style scoped>
.signal {
  color: var(--top-ink);
  border: 1px solid #d98a55;
  border-left-width: 5px;
  border-radius: 3px;
  padding: 4px 10px;
  font-size: 13px;
  text-decoration: none;
  white-space: nowrap;
}
@media (max-width: 719px) {
  .signal {
    white-space: normal; /* all of it, on two lines where it is long */
    font-size: 12px;
    line-height: 1.2;
    padding: 3px 8px;
  }
}
.brief {
  animation: late 0s 1.5s both;
}
@keyframes late {
  from {
    visibility: hidden;
  }
}
</style>
