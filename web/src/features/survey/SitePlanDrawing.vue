<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import PlanGround from './PlanGround.vue'
import type { SitePlan, XY } from './shape'
import { band, bayCorners, hexagon, obstacleCorners, square } from './corners'
import { extent, handles, snapTo, type Kind, type Pick, type usePlan } from './plan'

/** The site plan, drawn to scale: everything can be dragged, or walked with arrow keys in steps of 5 cm. */
const props = defineProps<{
  plan: SitePlan
  site?: Schemas['SitePlanView']
  shown: string
  chosen: string[]
  edit: ReturnType<typeof usePlan>
  /** What is put onto the plan by the next press; a line is pulled from there. */
  adding?: Kind
  off?: boolean
}>()
const emit = defineEmits<{ added: [] }>()
const pick = defineModel<Pick | undefined>('pick')
const svg = ref<SVGSVGElement>()
const held = ref<ReturnType<typeof extent>>()
const box = computed(() => held.value ?? extent(props.plan, props.site?.cars ?? []))
const size = computed(() => ({ w: box.value.right - box.value.left, h: box.value.top - box.value.bottom }))
const k = computed(() => Math.max(size.value.w / 20, 0.5)) // sizes of marks follow the plan's
const x = (q: XY) => q.x - box.value.left
const y = (q: XY) => box.value.top - q.y
const points = (list: XY[]) => list.map((q) => `${x(q).toFixed(3)},${y(q).toFixed(3)}`).join(' ')
const bolt = (q: XY, r: number) => points(hexagon(q, r))
const around = (q: XY, h: number) => points(square(q, h))
const cords = computed(
  () => props.site?.rows.find((r) => r.position.id === props.shown)?.cords.filter((c) => c.usual) ?? [],
)
const { sayLength } = useCountry()
const length = (m: number) => sayLength(m, 1)
const middle = (way: XY[]) => way[Math.floor(way.length / 2)] ?? way[0]
const is = (kind: Kind, index: number) => pick.value?.kind === kind && pick.value.index === index
const bind = (kind: Kind, index: number) => ({
  tabindex: 0,
  class: { picked: is(kind, index) },
  'data-thing': `${kind}.${index}`,
  onPointerdown: (e: PointerEvent) => take(e, { kind, index }),
  onKeydown: (e: KeyboardEvent) => key(e, { kind, index }),
  onFocus: () => (pick.value = { kind, index }),
})

function place(e: PointerEvent): XY {
  const r = svg.value!.getBoundingClientRect()
  return {
    x: box.value.left + ((e.clientX - r.left) / r.width) * size.value.w,
    y: box.value.top - ((e.clientY - r.top) / r.height) * size.value.h,
  }
}
/** Puts what is being added where the hand is; the hand pulls a line's other end, or moves the thing, until it lets go. */
function put(e: PointerEvent) {
  if (!props.adding || props.off || e.button) return
  const p = props.edit.put(props.adding, place(e))
  emit('added')
  hold(e, p, p.pulled ? 1 : undefined)
  if (p.pulled) window.addEventListener('pointerup', () => props.edit.settle(p), { once: true })
}
function take(e: PointerEvent, p: Pick, end?: number) {
  if (!props.adding) hold(e, p, end) // else the press is the plan's
}
function hold(e: PointerEvent, p: Pick, end?: number) {
  pick.value = p
  if (props.off || e.button) return
  e.preventDefault()
  e.stopPropagation()
  const start = place(e)
  const lead = handles(props.plan, p)[end ?? 0]
  const offset = { x: lead.x - start.x, y: lead.y - start.y }
  held.value = box.value // the frame stays still under the hand
  const moved = (m: PointerEvent) => {
    const at = place(m)
    props.edit.move(p, { x: at.x + offset.x, y: at.y + offset.y }, end)
  }
  const done = () => {
    window.removeEventListener('pointermove', moved)
    window.removeEventListener('pointerup', done)
    held.value = undefined
  }
  window.addEventListener('pointermove', moved)
  window.addEventListener('pointerup', done)
}
function key(e: KeyboardEvent, p: Pick) {
  const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key]
  if (props.off || !by) return
  e.preventDefault()
  const lead = handles(props.plan, p)[0]
  props.edit.move(p, { x: lead.x + by[0] * snapTo, y: lead.y + by[1] * snapTo })
}
// Those that were measured and not drawn are in the table alone.
const positions = computed(() => props.plan.positions.flatMap((p, i) => (p.at ? [{ p, at: p.at, i }] : [])))
</script>

<template>
  <svg
    ref="svg"
    class="plan"
    :class="{ adding }"
    :viewBox="`0 0 ${size.w} ${size.h}`"
    role="img"
    aria-label="Site plan, to scale"
    @pointerdown="put"
  >
    <PlanGround :box="box" :k="k" />
    <polygon
      v-for="(p, i) in plan.paths"
      :key="'p' + i"
      :points="points(band(p.from, p.to, p.width ?? 1))"
      class="path"
      v-bind="bind('paths', i)"
    />
    <polygon
      v-for="(b, i) in plan.bays"
      :key="'b' + i"
      :points="points(bayCorners(b))"
      class="bay"
      v-bind="bind('bays', i)"
    />
    <g class="area"><polygon v-for="(a, i) in site?.area" :key="'a' + i" :points="points(a)" /></g>
    <polygon
      v-for="(w, i) in plan.walls"
      :key="'w' + i"
      :points="points(band(w.from, w.to, w.thick || 0.1, (w.thick || 0.1) / 2))"
      class="wall"
      v-bind="bind('walls', i)"
    />
    <polygon
      v-for="(o, i) in plan.obstacles"
      :key="'o' + i"
      :points="points(obstacleCorners(o))"
      class="obstacle"
      v-bind="bind('obstacles', i)"
    />
    <line
      v-for="(d, i) in plan.doors"
      :key="'d' + i"
      :x1="x(d.from)"
      :y1="y(d.from)"
      :x2="x(d.to)"
      :y2="y(d.to)"
      class="door"
      v-bind="bind('doors', i)"
    />
    <template v-for="(g, i) in plan.gas" :key="'g' + i">
      <polygon v-if="g.kind === 'meter'" :points="around(g.from, 0.18 * k)" class="gas" v-bind="bind('gas', i)" />
      <line
        v-else-if="g.to"
        :x1="x(g.from)"
        :y1="y(g.from)"
        :x2="x(g.to)"
        :y2="y(g.to)"
        class="gas"
        v-bind="bind('gas', i)"
      />
    </template>
    <polygon v-if="plan.board" :points="around(plan.board, 0.18 * k)" class="board" v-bind="bind('board', 0)" />
    <polygon v-if="plan.meter" :points="around(plan.meter, 0.14 * k)" class="obstacle" v-bind="bind('meter', 0)" />
    <g v-for="c in site?.cars" :key="'c' + c.vehicle" class="car">
      <polygon :points="points(c.outline)" />
      <line :x1="x(c.outline[1])" :y1="y(c.outline[1])" :x2="x(c.outline[2])" :y2="y(c.outline[2])" class="nose" />
      <polygon v-if="c.inlet" :points="bolt(c.inlet, 0.13 * k)" class="inlet" />
    </g>
    <g v-for="c in cords" :key="'l' + c.vehicle" class="cord" :class="{ short: c.known && !c.reaches }">
      <polyline v-if="c.way" :points="points(c.way)" />
    </g>
    <g v-for="{ p, at, i } in positions" :key="'q' + i" v-bind="bind('positions', i)" :data-position="p.id">
      <polygon :points="bolt(at, 0.34 * k)" class="position" :class="{ chosen: chosen.includes(p.id) }" />
      <text
        :style="{ fontSize: `${0.4 * k}px` }"
        :x="x(at)"
        :y="y(at) + 0.13 * k"
        class="mid"
        :class="{ light: chosen.includes(p.id) }"
      >
        {{ p.id }}
      </text>
    </g>
    <g class="words" :style="{ fontSize: `${0.32 * k}px` }">
      <g
        v-for="c in site?.cars"
        :key="'n' + c.vehicle"
        :transform="`translate(${(x(c.outline[0]) + x(c.outline[2])) / 2} ${(y(c.outline[0]) + y(c.outline[2])) / 2})`"
      >
        <text class="mid">{{ c.name }}</text>
        <text class="mid quiet" :y="0.4 * k">{{ c.attitude.replace('-', ' ') }}</text>
      </g>
      <text
        v-for="(d, i) in plan.doors"
        :key="'t' + i"
        :x="(x(d.from) + x(d.to)) / 2"
        :y="(y(d.from) + y(d.to)) / 2 - 0.3 * k"
        class="mid quiet"
      >
        {{ d.name }}
      </text>
      <text
        v-for="(g, i) in plan.gas"
        :key="'u' + i"
        :x="x(g.from) - 0.3 * k"
        :y="y(g.from) - 0.28 * k"
        class="end gas-word"
      >
        gas {{ g.kind }}
      </text>
      <text v-if="plan.board" :x="x(plan.board)" :y="y(plan.board) + 0.5 * k" class="mid quiet">board</text>
      <text
        v-for="(o, i) in plan.obstacles"
        :key="'v' + i"
        :x="x(o.at) + (o.width ?? 0) / 2"
        :y="y(o.at) + 0.4 * k"
        class="mid quiet"
      >
        {{ o.name }}
      </text>
      <template v-for="c in cords" :key="'m' + c.vehicle">
        <text
          v-if="c.way"
          :x="x(middle(c.way)) + 0.2 * k"
          :y="y(middle(c.way)) - 0.15 * k"
          class="mono need"
          :class="{ short: c.known && !c.reaches }"
        >
          {{ length(c.needed) }}
        </text>
      </template>
    </g>
    <g v-if="pick && !off">
      <circle
        v-for="(q, i) in handles(plan, pick).length > 1 ? handles(plan, pick) : []"
        :key="'h' + i"
        :cx="x(q)"
        :cy="y(q)"
        :r="0.16 * k"
        class="handle"
        @pointerdown="take($event, pick, i)"
      />
    </g>
  </svg>
</template>

<style scoped src="./plan.css"></style>
