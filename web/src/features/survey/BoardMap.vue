<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useCountry } from '@/composables/useCountry'
import ChoiceField from '@/kit/ChoiceField.vue'
import NumberField from '@/kit/NumberField.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import { layouts } from '../options'
import { cells, perRow, readSpaces, writeSpaces, type Cell } from './boardGrid'
import OwnMoves from './OwnMoves.vue'
import SlotEditor from './SlotEditor.vue'
import type { Board } from './shape'

/** The board as it is in front of the surveyor: every way or space, what is in it, and where the new breaker goes. */
const props = defineProps<{ fits: Schemas['Fit'][] }>()
const { asks, label, word } = useCountry()
const board = defineModel<Board>({ required: true })
const chosen = ref<number>()
const grid = ref<HTMLElement>()
const list = computed(() => cells(board.value))
const fresh = computed(() => new Set(props.fits.flatMap((f) => f.at ?? [])))
const leaves = computed(() => new Set(props.fits.flatMap((f) => f.moves ?? []).map((m) => m.from)))
const slot = computed(() => board.value.slots.find((s) => s.at === chosen.value))
const columns = computed(() => (board.value.layout === 'columns' ? 2 : perRow(board.value)))
const verdict = (f: Schemas['Fit']) => (!f.mapped ? 'open' : !f.fits ? 'stop' : f.moves?.length ? 'watch' : 'sound')

function press(c: Cell) {
  if (!c.slot) board.value.slots.push({ at: c.first, poles: 1 })
  chosen.value = c.first
}
function remove() {
  board.value.slots = board.value.slots.filter((s) => s.at !== chosen.value)
  chosen.value = undefined
}
/** Arrow keys walk over the board as it is drawn. */
async function walk(e: KeyboardEvent, c: Cell) {
  const by = { ArrowUp: [-1, 0], ArrowDown: [c.down, 0], ArrowLeft: [0, -1], ArrowRight: [0, c.across] }[e.key]
  if (!by) return
  e.preventDefault()
  const row = c.row + by[0]
  const column = c.column + by[1]
  const to = list.value.find(
    (x) => row >= x.row && row < x.row + x.down && column >= x.column && column < x.column + x.across,
  )
  await nextTick()
  grid.value?.querySelector<HTMLElement>(`[data-space="${to?.first}"]`)?.focus()
}
</script>

<template>
  <section class="card map" data-field="survey.board.map" aria-label="Map of the board">
    <header class="row">
      <h2>What is fitted where</h2>
      <span class="quiet">press a space to enter what is in it; arrow keys walk</span>
    </header>
    <div class="set">
      <ChoiceField v-model="board.layout" name="survey.board.layout" label="Drawn as" :options="layouts" />
      <NumberField
        v-if="board.layout === 'rows'"
        v-model="board.rows"
        name="survey.board.rows"
        label="Rows"
        :decimals="0"
      />
      <TextField
        v-if="asks('board.doublesAt')"
        :model-value="writeSpaces(board.doublesAt)"
        name="survey.board.doublesAt"
        :label="label('board.doublesAt')"
        hint="as the label says: 17-20"
        @change="(e: Event) => (board.doublesAt = readSpaces((e.target as HTMLInputElement).value))"
      />
    </div>
    <p v-for="(f, i) in fits" :key="i" class="row fit" :data-fits="f.fits" :data-moves="f.moves?.length ?? 0">
      <VerdictMark :verdict="verdict(f)" />
      <span
        ><b>{{ word('newDevice').replace('{}', String(f.poles)) }}:</b> {{ f.why
        }}<template v-if="f.circuitsMax && f.circuits"
          >; {{ f.circuits }} circuits of {{ f.circuitsMax }}</template
        ></span
      >
    </p>
    <div
      v-if="board.layout && board.ways"
      ref="grid"
      class="board"
      :class="board.layout"
      :style="{ gridTemplateColumns: `repeat(${columns}, minmax(${board.layout === 'columns' ? 120 : 62}px, 1fr))` }"
      role="group"
      aria-label="Spaces of the board"
    >
      <PushButton
        kind="own"
        v-for="c in list"
        :key="c.first"
        :data-space="c.first"
        :class="{
          free: !c.slot,
          fixed: c.slot?.fixed === 'yes',
          fresh: c.spaces.some((n) => fresh.has(n)),
          on: c.first === chosen,
        }"
        :style="{ gridRow: `${c.row} / span ${c.down}`, gridColumn: `${c.column} / span ${c.across}` }"
        @click="press(c)"
        @keydown="walk($event, c)"
      >
        <span class="unseen">space </span>
        <span class="mono n"
          >{{ c.spaces.join(' ')
          }}<i v-if="board.doublesAt.includes(c.first)" title="a double is allowed here">½</i></span
        >
        <span v-if="c.slot" class="what">
          {{ c.slot.circuit || 'device' }}<template v-if="c.slot.double"> + {{ c.slot.double }}</template>
        </span>
        <span v-else class="unseen">free</span>
        <span v-if="c.slot?.rating" class="mono amps">{{ c.slot.rating }} A</span>
        <span v-if="c.spaces.some((n) => fresh.has(n))" class="tag">{{ c.slot ? 'makes way' : 'new' }}</span>
        <span v-else-if="leaves.has(c.first)" class="tag">moves</span>
      </PushButton>
    </div>
    <OwnMoves v-if="board.layout && board.ways" v-model="board" />
    <SlotEditor v-if="slot" :key="slot.at" :slot-data="slot" @remove="remove" @close="chosen = undefined" />
  </section>
</template>

<style scoped>
.map {
  margin-top: 12px;
  overflow-x: auto;
}
.set {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 12px 16px;
  margin: 10px 0;
}
.fit {
  margin: 8px 0;
  flex-wrap: nowrap;
  align-items: start;
}
.board {
  display: grid;
  gap: 3px;
  padding: 8px;
  background: var(--band);
  border: 1px solid var(--line);
  border-radius: 4px;
}
.columns {
  max-width: 560px;
  grid-auto-rows: minmax(34px, auto);
  column-gap: 14px;
}
.rows {
  grid-auto-rows: minmax(104px, auto);
}
.board button {
  font: inherit;
  font-size: 12.5px;
  text-align: left;
  display: flex;
  gap: 2px 8px;
  align-items: center;
  padding: 4px 6px;
  min-width: 0;
  border: 1px solid var(--slate);
  border-radius: 2px;
  background: var(--card);
  color: var(--ink);
  cursor: pointer;
}
.rows button {
  flex-direction: column;
  align-items: flex-start;
}
.board .free {
  background: none;
  border-style: dashed;
  color: var(--slate);
}
.board .fixed {
  background: var(--spine);
}
.board .fresh {
  border: 2px dashed var(--copper);
}
.board .on {
  background: var(--copper-soft);
  border-color: var(--copper);
}
.n {
  color: var(--slate);
  font-size: 11.5px;
}
.n i {
  margin-left: 4px;
  font:
    600 13px 'Plex Sans',
    sans-serif;
}
.what {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
  line-height: 1.2;
}
@media (max-width: 719px) {
  .columns button {
    flex-wrap: wrap;
  }
  .what {
    flex-basis: 60px;
  }
}
.tag {
  color: var(--copper);
  font-weight: 600;
}
</style>
