<script setup lang="ts">
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useDevice, type Scheme } from '@/composables/useDevice'
import { useJob } from '@/composables/useJob'
import LineField from '@/kit/LineField.vue'
import PushButton from '@/kit/PushButton.vue'
import { stages, stageTitle } from '@/router'

/** Everything by name: stages, findings, drawings, files, colours. */
const props = defineProps<{ job: string }>()
const open = defineModel<boolean>()
const emit = defineEmits<{ history: [] }>()
const router = useRouter()
const device = useDevice()
const opened = useJob()
const words = ref('')
const at = ref(0)
const field = useTemplateRef('field')

interface Command {
  title: string
  run: () => void
}
const go = (path: string) => () => void router.push(path)
const commands = computed<Command[]>(() => [
  ...stages.map((s) => ({ title: `Go to ${stageTitle(s)}`, run: go(`/jobs/${props.job}/${s}`) })),
  ...opened.view.findings
    .filter((f) => f.verdict !== 'sound')
    .map((f) => ({
      title: `${f.verdict}: ${f.title}${f.point ? ' · ' + f.point : ''}`,
      run: go(`/jobs/${props.job}/${f.stage}?field=${f.fields?.[0] ?? ''}`),
    })),
  { title: 'All jobs', run: go('/jobs') },
  { title: 'Day sheet of this job', run: go(`/jobs/${props.job}/day-sheet`) },
  { title: 'Days and crews', run: go('/days') },
  { title: 'Papers due', run: go('/due') },
  { title: 'Practice fault finding', run: go('/practice') },
  { title: 'Stock and orders', run: go('/stock') },
  { title: 'New job', run: go('/jobs/new') },
  { title: 'Check a sealed file', run: go('/verify') },
  { title: 'Who changed what', run: () => emit('history') },
  { title: 'Export the job file', run: () => window.open(`api/jobs/${props.job}/export`) },
  ...(['light', 'dark', 'sun'] as Scheme[]).map((s) => ({ title: `Colours: ${s}`, run: () => (device.scheme = s) })),
])
const found = computed(() => {
  const parts = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  return commands.value.filter((c) => parts.every((p) => c.title.toLowerCase().includes(p))).slice(0, 9)
})
watch(words, () => (at.value = 0))
onMounted(() => window.setTimeout(() => field.value?.focus(), 60))
function run(c?: Command) {
  if (!c) return
  open.value = false
  c.run()
}
</script>

<template>
  <v-dialog v-model="open" max-width="520" aria-label="Go to">
    <div class="card">
      <LineField
        ref="field"
        v-model="words"
        class="words"
        placeholder="What do you want to do?"
        label="Do anything by name"
        @keydown.down.prevent="at = Math.min(at + 1, found.length - 1)"
        @keydown.up.prevent="at = Math.max(at - 1, 0)"
        @keydown.enter.prevent="run(found[at])"
      />
      <PushButton
        kind="own"
        v-for="(c, i) in found"
        :key="c.title"
        class="command"
        :class="{ at: i === at }"
        @click="run(c)"
      >
        {{ c.title }}
      </PushButton>
      <p v-if="!found.length" class="quiet">Nothing has that name.</p>
    </div>
  </v-dialog>
</template>

<style scoped>
.words {
  font-size: 16px;
  margin-bottom: 8px;
}
.command {
  font: inherit;
  display: block;
  width: 100%;
  text-align: left;
  padding: 7px 10px;
  color: var(--ink);
  background: none;
  border: 0;
  border-left: 3px solid transparent;
  cursor: pointer;
}
.at {
  background: var(--copper-soft);
  border-left-color: var(--copper);
}
</style>
