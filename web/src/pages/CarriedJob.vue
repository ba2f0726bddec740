<script setup lang="ts">
import { useDraggable, type Position } from '@vueuse/core'
import { ref, useTemplateRef } from 'vue'

/**
 * A job that can be carried to a day: as a whole with a mouse, by its grip with a finger, which elsewhere moves the page.
 * `put` names the cell that it was let go over; elsewhere it goes back.
 */
const props = defineProps<{ held: boolean; fixed?: boolean }>()
const emit = defineEmits<{ put: [cell: string] }>()
const card = useTemplateRef<HTMLElement>('card')
const grip = useTemplateRef<HTMLElement>('grip')
const by = ref<Position>() // how far it was carried
let begun: Position | undefined

const under = (e: PointerEvent) =>
  document.elementFromPoint(e.clientX, e.clientY)?.closest<HTMLElement>('[data-cell]') ?? undefined
let over: HTMLElement | undefined
function mark(cell?: HTMLElement) {
  over?.classList.remove('over')
  cell?.classList.add('over')
  over = cell
}
const carrying = {
  onStart: (_: Position, e: PointerEvent) => {
    if (props.fixed) return false
    begun = { x: e.clientX, y: e.clientY }
  },
  onMove: (_: Position, e: PointerEvent) => {
    const to = { x: e.clientX - begun!.x, y: e.clientY - begun!.y }
    if (!by.value && Math.hypot(to.x, to.y) < 8) return // a press is no carrying
    by.value = to
    mark(under(e))
  },
  onEnd: (_: Position, e: PointerEvent) => {
    if (!by.value) return
    const cell = under(e)?.dataset.cell
    by.value = undefined
    mark()
    if (cell) emit('put', cell)
  },
}
useDraggable(card, { ...carrying, pointerTypes: ['mouse', 'pen'] })
useDraggable(grip, { ...carrying, pointerTypes: ['touch'], preventDefault: true })
</script>

<template>
  <article
    ref="card"
    class="job"
    :class="{ held, carried: by }"
    :style="by && { transform: `translate(${by.x}px, ${by.y}px)` }"
  >
    <span v-if="!fixed" ref="grip" class="grip" aria-hidden="true" />
    <slot />
  </article>
</template>

<style scoped>
.job {
  position: relative;
  user-select: none;
}
.held {
  outline: 2px dashed var(--copper);
}
.carried {
  z-index: 10;
  pointer-events: none;
  opacity: 0.9;
}
.grip {
  position: absolute;
  top: 0;
  right: 0;
  width: 44px;
  height: 40px;
  touch-action: none;
  cursor: grab;
}
.grip::after {
  content: '';
  position: absolute;
  inset: 10px 8px auto auto;
  width: 12px;
  height: 9px;
  border-top: 2px solid var(--slate);
  border-bottom: 2px solid var(--slate);
}
</style>
