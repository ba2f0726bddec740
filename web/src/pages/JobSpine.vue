<script setup lang="ts">
import { nextTick, onMounted, useTemplateRef, watch } from 'vue'
import type { Schemas } from '@/api/client'
import BoltMark from '@/kit/BoltMark.vue'
import { stageTitle } from '@/router'

/** The seven bolts of a job: down the left edge, or across the top of a phone. */
const props = defineProps<{ job: string; stage: string; bolts: Schemas['Bolt'][] }>()
const spine = useTemplateRef('spine')
// On a phone the names need more than its width: the stage that is open comes to the middle.
async function middle() {
  await nextTick()
  const all = spine.value
  const here = all?.querySelector<HTMLElement>('.here')
  if (all && here) all.scrollLeft = here.offsetLeft - (all.clientWidth - here.clientWidth) / 2
}
onMounted(middle)
watch(() => props.stage, middle)
</script>

<template>
  <nav ref="spine" class="spine" aria-label="Stages">
    <router-link
      v-for="(b, i) in bolts"
      :key="b.stage"
      :to="`/jobs/${job}/${b.stage}`"
      class="stop"
      :class="{ here: b.stage === stage }"
      :aria-current="b.stage === stage ? 'page' : undefined"
      :title="`${stageTitle(b.stage)} (${i + 1}): ${b.stops} stop, ${b.watch} to weigh, ${b.open} open`"
    >
      <BoltMark :state="b.state" />
      <span>{{ stageTitle(b.stage) }}</span>
    </router-link>
  </nav>
</template>

<style scoped>
.spine {
  background: var(--spine);
  border-right: 1px solid var(--line);
  padding-top: 14px;
  display: flex;
  flex-direction: column;
  position: sticky;
  top: 0;
  align-self: start;
  height: 100vh;
  box-sizing: border-box;
  background-image: linear-gradient(var(--line), var(--line));
  background-size: 2px 590px;
  background-position: 45px 30px;
  background-repeat: no-repeat;
}
.stop {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 2px;
  padding: 6px 0 10px;
  min-height: 72px;
  font-size: 12.5px;
  color: var(--ink2);
  text-decoration: none;
  border-left: 4px solid transparent;
  border-right: 4px solid transparent;
}
.stop span {
  background: var(--spine);
  padding: 0 3px;
}
.here {
  border-left-color: var(--copper);
  font-weight: 600;
  color: var(--ink);
}
@media (max-width: 719px) {
  .spine {
    flex-direction: row;
    align-self: stretch;
    overflow-x: auto;
    height: auto;
    padding: 2px 4px;
    background-image: none;
    border-right: 0;
    border-bottom: 1px solid var(--line);
    z-index: 5;
  }
  .stop {
    border: 0;
    border-bottom: 4px solid transparent;
    min-height: 48px;
    flex: 1 0 auto;
    padding: 4px 2px 2px;
    font-size: 12px;
  }
  .stop :deep(svg) {
    width: 30px;
    height: 30px;
  }
  .here {
    border-bottom-color: var(--copper);
  }
}
</style>
