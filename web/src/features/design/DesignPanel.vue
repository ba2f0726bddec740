<script setup lang="ts">
import { useSessionStorage } from '@vueuse/core'
import { computed, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Verdict } from '@/api/client'
import { useJob } from '@/composables/useJob'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'

/**
 * A part of the design that stands folded into a line: what was decided there, and the worst that the rules say of its
 * fields. It opens by a press, and where a finding leads to one of its fields.
 */
const props = defineProps<{
  id: string
  title: string
  line?: string
  fields?: string[]
  point: string
  begin?: boolean
}>()
const opened = useJob()
const route = useRoute()
// As it was left on this device, a job at a time.
const open = useSessionStorage(`design ${opened.id} ${props.id}`, !!props.begin)
const holds = (field: string) => !!props.fields?.some((f) => field.startsWith(f))
watch(
  () => route.query.field,
  (f) => {
    if (f && holds(String(f))) open.value = true
  },
  { immediate: true },
)
const worst = computed<Verdict | undefined>(() => {
  const said = opened.view.findings.filter((f) => (!f.point || f.point === props.point) && f.fields?.some(holds))
  return (['stop', 'open', 'watch'] as const).find((v) => said.some((f) => f.verdict === v))
})
</script>

<template>
  <div class="panel" :data-panel="id" :data-holds="fields?.join(' ')">
    <template v-if="open">
      <slot />
      <PushButton kind="word" class="fold" aria-expanded="true" @click="open = false">Fold “{{ title }}”</PushButton>
    </template>
    <h2 v-else class="card">
      <PushButton kind="own" class="line" aria-expanded="false" data-unfold @click="open = true">
        <span class="title">{{ title }}</span>
        <span class="decided">{{ line }}</span>
        <VerdictMark v-if="worst" :verdict="worst" />
        <span class="sign" aria-hidden="true">+</span>
      </PushButton>
    </h2>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
}
h2 {
  margin-top: 8px;
  padding: 0;
}
.line {
  display: grid;
  grid-template-columns: 190px minmax(0, 1fr) auto 16px;
  gap: 12px;
  align-items: center;
  width: 100%;
  min-height: max(44px, var(--tap));
  padding: 4px 14px;
  text-align: left;
}
.decided {
  font-size: 13px;
  font-weight: 400;
  color: var(--slate);
}
.sign {
  grid-column: 4;
  font-size: 18px;
  color: var(--copper);
}
.fold {
  justify-self: end;
  min-height: calc(var(--tap) - 8px);
  font-size: 13px;
}
@media (max-width: 719px) {
  .line {
    grid-template-columns: minmax(0, 1fr) auto 16px;
    gap: 0 10px;
  }
  .decided {
    grid-row: 2;
    grid-column: 1;
  }
  .sign {
    grid-column: 3;
  }
}
</style>
