<script setup lang="ts">
import SignaturePad from 'signature_pad'
import { useResizeObserver } from '@vueuse/core'
import { onBeforeUnmount, ref, watch } from 'vue'
import type { Entry } from '@/api/client'
import { useJob } from '@/composables/useJob'
import { useMe } from '@/composables/useMe'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { momentText } from '@/kit/dates'

/** Who was given the pack signs for it with a finger: kept as paths, like any entry also without signal. */
defineProps<{ busy: boolean }>()
const emit = defineEmits<{ write: [Partial<Entry>[]] }>()
const opened = useJob()
const { may } = useMe()
// The box that the strokes are kept in, as core/job has it.
const width = 600
const height = 200
/** What came in by a file is a claim, and nobody's signature. */
const last = () => opened.standing.findLast((e) => e.kind === 'receipt' && !e.imported)
const again = ref(false)
const who = ref(opened.view.job.site?.customer ?? '')
const drawn = ref(false)
const canvas = ref<HTMLCanvasElement>()
let pad: SignaturePad | undefined
watch(canvas, (el) => {
  pad?.off()
  if (!el) return
  pad = new SignaturePad(el, { penColor: getComputedStyle(el).color, minDistance: 3 })
  pad.addEventListener('endStroke', () => (drawn.value = true))
})
/** The pad draws in the pixels that it has: turning the phone begins anew. */
useResizeObserver(canvas, () => {
  const el = canvas.value
  if (!el || el.width === el.clientWidth) return
  el.width = el.clientWidth
  el.height = el.clientHeight
  clear()
})
onBeforeUnmount(() => pad?.off())
function clear() {
  pad?.clear()
  drawn.value = false
}
/** The strokes as paths of SVG in whole units of the box. */
function paths(): string {
  const scale = width / canvas.value!.width
  const within = (v: number, most: number) => Math.min(most, Math.max(0, Math.round(v * scale)))
  return pad!
    .toData()
    .map((s) => 'M' + s.points.map((p) => `${within(p.x, width)} ${within(p.y, height)}`).join('L'))
    .join('')
}
function keep() {
  emit('write', [{ kind: 'receipt', value: who.value.trim(), strokes: paths(), replaces: last()?.id }])
  again.value = false
}
</script>

<template>
  <FieldGroup title="Receipt of the pack">
    <template #below>
      <template v-if="last() && !again">
        <p data-received>Received by {{ last()!.value }}, {{ momentText(last()!.at) }}, shown by {{ last()!.by }}</p>
        <svg
          :viewBox="`0 0 ${width} ${height}`"
          class="strokes"
          role="img"
          :aria-label="`Signature of ${last()!.value}`"
        >
          <path :d="last()!.strokes" />
        </svg>
        <p class="row">
          <a class="btn plain" :href="`api/jobs/${opened.id}/receipt.pdf`" download>Receipt, PDF</a>
          <PushButton v-if="may('write the log')" kind="plain" @click="again = true">Sign anew</PushButton>
        </p>
      </template>
      <template v-else-if="may('write the log')">
        <p class="quiet">
          At the door, when all was shown: whoever takes the pack signs with a finger. It may wait for signal.
        </p>
        <TextField v-model="who" name="receipt.value" label="Who signs" />
        <canvas ref="canvas" class="strokes" data-pad role="img" aria-label="Sign here"></canvas>
        <p class="row">
          <PushButton :disabled="busy || !drawn || who.trim().length < 2" data-receipt @click="keep"
            >Keep the receipt</PushButton
          >
          <PushButton kind="plain" :disabled="!drawn" @click="clear">Draw anew</PushButton>
        </p>
      </template>
      <p v-else class="quiet">Nobody has signed for it yet.</p>
    </template>
  </FieldGroup>
</template>

<style scoped>
p.quiet {
  margin-bottom: 8px;
}
.strokes {
  display: block;
  width: 100%;
  max-width: 600px;
  aspect-ratio: 3;
  margin: 8px 0;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--paper);
  color: var(--ink);
  touch-action: none;
}
.strokes path {
  fill: none;
  stroke: currentColor;
  stroke-width: 3;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>
